// All answers of a study as sections, for the page and `report --json`.
#pragma once

#include <string>
#include <vector>

#include "analysis/answers/report.h"
#include "study/study_json.h"
#include "views/answer.h"

namespace mileage {

/// SVG; empty if there is nothing to draw.
struct PageFigures {
  std::string costs, ratios, map, next_to_rest, frames, work, tuning, ladder;
};

struct Section {
  std::string title;
  Answer answer;
  std::string PageFigures::*figure = nullptr;
  bool is_headline = false;
};

/// Non-empty ones, decision first.
std::vector<Section> sections_of(const Report& report);

Json report_json(const std::vector<Report>& reports);

}  // namespace mileage
