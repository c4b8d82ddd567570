// How far series go beside another system of the same frame: a map, as a table and a figure.
#pragma once

#include <string>

#include "analysis/answers/about.h"
#include "analysis/answers/shared_frame.h"
#include "study/study_json.h"
#include "views/gnuplot.h"
#include "views/text_table.h"

namespace mileage {

/// A row for each place of the other system, a column for each series.
TextTable shared_frame_table(const About& about, const SharedFrameAnswer& answer);

/// What stands at the place asked for, which of both to improve first, and the map.
std::string shared_frame_text(const About& about, const SharedFrameAnswer& answer);

/// Adds rows "beside" and "improve".
void add_shared_frame_json(Json& json, const About& about, const SharedFrameAnswer& answer);

/// The largest counts of both systems that fit together: below a curve they do. Throws Error (usage) where no series
/// has two places, and (cannot write) when gnuplot is missing.
std::string shared_frame_figure(const About& about, const SharedFrameAnswer& answer, FigureFormat format);
/// The script that draws it.
std::string shared_frame_figure_script(const About& about, const SharedFrameAnswer& answer, FigureFormat format);

}  // namespace mileage
