// The figure of cost against count: points with intervals, fitted curves, the budget, capacities and break-evens; below
// it what that is for each entity, where layouts, caches and batches are steps; and the strip of what to use where.
#pragma once

#include <string>

#include "analysis/answers/report.h"
#include "views/gnuplot.h"

namespace mileage {

/// Draws the figure of a study and returns the bytes of the picture, 1280 pixels wide (PNG) or scalable (SVG). A study
/// at one place has bars instead of curves. Throws Error (cannot write) when gnuplot is missing.
std::string cost_figure(const Report& report, FigureFormat format);

/// The script that draws it.
std::string cost_figure_script(const Report& report, FigureFormat format);

}  // namespace mileage
