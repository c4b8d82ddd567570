// The figure of a study at one place: a bar with its interval for each way, and the budget.
#pragma once

#include <string>

#include "analysis/answers/report.h"
#include "views/gnuplot.h"

namespace mileage {

/// The script that draws what a frame costs at the only place of a study, group by group.
std::string bars_figure_script(const Report& report, FigureFormat format);

}  // namespace mileage
