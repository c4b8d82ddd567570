// The report: one self-contained HTML page.
#pragma once

#include <string>

#include "analysis/answers/report.h"

namespace mileage {

/// What is drawn into a page, as SVG; empty where a study has nothing of the kind.
struct PageFigures {
  std::string costs, ratios, map, beside, frames, work, tuning, ladder;
};

/// All that a study has.
PageFigures page_figures(const Report& report);

/// The page of a study: the answers first, the figures, the evidence, then machine and method. Nothing is loaded from
/// elsewhere, and no script runs.
std::string report_page(const Report& report, const PageFigures& figures);

}  // namespace mileage
