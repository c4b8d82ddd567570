// The figure of `frames`: beginnings laid over each other, and all frames sorted by time with the budget across.
#pragma once

#include <string>

#include "analysis/answers/about.h"
#include "analysis/answers/frames.h"
#include "views/gnuplot.h"

namespace mileage {

/// Whether any cell notes work by worker, and whether any has single frames.
bool notes_work(const FramesAnswer& answer);
bool tells_of_frames(const FramesAnswer& answer);

/// The busy time of each worker as sorted bars, the largest batch marked on them; of cells that note work. Throws as
/// frames_figure().
std::string work_figure(const About& about, const FramesAnswer& answer, FigureFormat format);
std::string work_figure_script(const About& about, const FramesAnswer& answer, FigureFormat format);

/// Throws Error (usage) where no cell has single frames, and (cannot write) when gnuplot is missing.
std::string frames_figure(const About& about, const FramesAnswer& answer, FigureFormat format);

/// The script that draws it.
std::string frames_figure_script(const About& about, const FramesAnswer& answer, FigureFormat format);

}  // namespace mileage
