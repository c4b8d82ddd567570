// Writing the page and the figure of a study. Both throw Error (cannot write).
#pragma once

#include <filesystem>

#include "analysis/answers/report.h"
#include "figures/gnuplot.h"

namespace mileage {

/// By the ending of a name, .png or .svg; Error (usage) for another one.
FigureFormat figure_format(const std::filesystem::path& path);

void write_page(const std::filesystem::path& path, const Report& report);
void write_figure(const std::filesystem::path& path, const Report& report);

}  // namespace mileage
