// The figure of cost against count: points with intervals, fitted curves, the budget, capacities and break-evens, and
// below it the strip of what to use where.
#pragma once

#include <string>

#include "analysis/answers/report.h"

namespace mileage {

enum class FigureFormat { png, svg };

/// Draws the figure of a study and returns the bytes of the picture, 1280 x 800 (PNG) or scalable (SVG). Throws Error
/// (cannot write) when gnuplot is missing.
std::string cost_figure(const Report& report, FigureFormat format);

/// The script that draws it.
std::string cost_figure_script(const Report& report, FigureFormat format);

}  // namespace mileage
