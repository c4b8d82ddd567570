// The figure of ratios: which share of one way's time the others take, over the count.
#pragma once

#include <string>
#include <vector>

#include "analysis/answers/about.h"
#include "analysis/answers/against.h"
#include "views/gnuplot.h"

namespace mileage {

/// Shares with their bands (95 %) and the line at 1, from which on another way is slower. Throws Error (usage) where
/// nothing stands against anything at two places, and (cannot write) when gnuplot is missing.
std::string ratio_figure(const About& about, const std::vector<SeriesAgainst>& answer, FigureFormat format);

/// Whether anything stands against another at two places, so that there is something to draw.
bool has_ratios(const std::vector<SeriesAgainst>& answer);

/// The script that draws it.
std::string ratio_figure_script(const About& about, const std::vector<SeriesAgainst>& answer, FigureFormat format);

}  // namespace mileage
