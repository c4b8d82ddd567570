// Report: one self-contained HTML page.
#pragma once

#include <string>

#include "analysis/answers/report.h"
#include "views/report_view.h"

namespace mileage {

PageFigures page_figures(const Report& report);

/// Answers, figures, evidence, machine, method. No external resources, no scripts.
std::string report_page(const Report& report, const PageFigures& figures);

}  // namespace mileage
