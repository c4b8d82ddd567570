// Hands a script to gnuplot, which draws the figures.
#pragma once

#include <string>

namespace mileage {

enum class FigureFormat { png, svg };

/// What sets size and look of a figure (paper, border, tics), and `scale`, by which sizes of points are multiplied. In
/// pixels; SVG scales.
std::string gnuplot_terminal(FigureFormat format, int height, int width = 1280);

/// Runs gnuplot on a script and returns what it wrote to standard output. Throws Error (cannot write) when gnuplot is
/// not installed or reports an error, with its first line.
std::string run_gnuplot(const std::string& script);

/// A text as a gnuplot string in double quotes, with nothing in it that gnuplot would interpret.
std::string gnuplot_text(const std::string& text);

}  // namespace mileage
