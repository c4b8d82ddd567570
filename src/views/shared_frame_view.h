// How far series go beside another system of the same frame: a map, as a table and a figure.
#pragma once

#include <string>
#include <vector>

#include "analysis/answers/about.h"
#include "analysis/answers/shared_frame.h"
#include "study/study_json.h"
#include "views/gnuplot.h"
#include "views/text_table.h"

namespace mileage {

/// A row for each place of the other system, a column for each series.
TextTable shared_frame_table(const About& about, const SharedFrameAnswer& answer);

/// What each series holds beside the other system at the place asked for, and which of both to improve first; empty
/// where no place was.
std::vector<std::string> shared_frame_lines(const About& about, const SharedFrameAnswer& answer);

/// These lines and the map.
std::string shared_frame_text(const About& about, const SharedFrameAnswer& answer);

/// Adds rows "beside" and "improve".
void add_shared_frame_json(Json& json, const About& about, const SharedFrameAnswer& answer);

/// Whether a series has a capacity at two places, as a figure needs.
bool has_map(const SharedFrameAnswer& answer);

/// The largest counts of both systems that fit together: below a curve they do. Throws Error (usage) where
/// there is no map, and (cannot write) when gnuplot is missing.
std::string shared_frame_figure(const About& about, const SharedFrameAnswer& answer, FigureFormat format);
/// The script that draws it.
std::string shared_frame_figure_script(const About& about, const SharedFrameAnswer& answer, FigureFormat format);

}  // namespace mileage
