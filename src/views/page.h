// The report: one self-contained HTML page.
#pragma once

#include <string>

#include "analysis/answers/report.h"

namespace mileage {

/// The page of a study: the answers first, the figure, the evidence, then machine and method. `figure_svg` and
/// `ratios_svg` (which may be empty) are drawn into it. Nothing is loaded from elsewhere, and no script runs.
std::string report_page(const Report& report, const std::string& figure_svg, const std::string& ratios_svg = {});

}  // namespace mileage
