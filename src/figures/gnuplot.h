#pragma once

#include <string>

namespace mileage {

enum class FigureFormat { png, svg };

/// Size and style; `scale` multiplies point sizes. Pixels; SVG scales.
std::string gnuplot_terminal(FigureFormat format, int height, int width = 1280);

/// Returns its output. Throws Error (cannot write) if missing or failed, with its first line.
std::string run_gnuplot(const std::string& script);

/// Quoted, without anything gnuplot would interpret.
std::string gnuplot_text(const std::string& text);

}  // namespace mileage
