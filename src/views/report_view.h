// All answers of a study, section by section: what the page and `report --json` show.
#pragma once

#include <string>
#include <vector>

#include "analysis/answers/report.h"
#include "study/study_json.h"
#include "views/answer.h"

namespace mileage {

/// What is drawn into a page, as SVG; empty where a study has nothing of the kind.
struct PageFigures {
  std::string costs, ratios, map, beside, frames, work, tuning, ladder;
};

struct Section {
  std::string title;
  Answer answer;
  std::string PageFigures::*figure = nullptr;
  bool is_headline = false;  ///< Its verdict is at the top.
};

/// Those that say anything, the decision first.
std::vector<Section> sections_of(const Report& report);

Json report_json(const std::vector<Report>& reports);

}  // namespace mileage
