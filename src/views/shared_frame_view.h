// How far series go next to another system of the same frame: a map, as a table and a figure.
#pragma once

#include <string>
#include <vector>

#include "analysis/answers/about.h"
#include "analysis/answers/shared_frame.h"
#include "views/answer.h"
#include "views/gnuplot.h"

namespace mileage {

/// What fits next to the other system at the place asked for, which of both to improve first, and the map.
Answer shared_frame_view(const About& about, const SharedFrameAnswer& answer);

/// Whether a series has a capacity at two places, as a figure needs.
bool has_map(const SharedFrameAnswer& answer);

/// The largest counts of both systems that fit together: below a curve they do. Throws Error (usage) where
/// there is no map, and (cannot write) when gnuplot is missing.
std::string shared_frame_figure(const About& about, const SharedFrameAnswer& answer, FigureFormat format);
/// The script that draws it.
std::string shared_frame_figure_script(const About& about, const SharedFrameAnswer& answer, FigureFormat format);

}  // namespace mileage
