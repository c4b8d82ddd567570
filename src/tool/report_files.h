// Page and figure files. Throw Error (cannot write).
#pragma once

#include <filesystem>

#include "analysis/answers/report.h"
#include "figures/gnuplot.h"

namespace mileage {

/// .png or .svg; else Error (usage).
FigureFormat figure_format(const std::filesystem::path& path);

void write_page(const std::filesystem::path& path, const Report& report);
void write_figure(const std::filesystem::path& path, const Report& report);

}  // namespace mileage
