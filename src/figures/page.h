// The report: one self-contained HTML page.
#pragma once

#include <string>

#include "analysis/answers/report.h"
#include "views/report_view.h"

namespace mileage {

/// All that a study has.
PageFigures page_figures(const Report& report);

/// The page of a study: the answers first, the figures, the evidence, then machine and method. Nothing is loaded from
/// elsewhere, and no script runs.
std::string report_page(const Report& report, const PageFigures& figures);

}  // namespace mileage
