// The figures, as pictures and as the scripts that draw them. All throw Error (cannot write) when gnuplot is missing,
// and (usage) where there is nothing to draw.
#pragma once

#include <string>
#include <vector>

#include "analysis/answers/about.h"
#include "analysis/answers/against.h"
#include "analysis/answers/choice.h"
#include "analysis/answers/choice_map.h"
#include "analysis/answers/frames.h"
#include "analysis/answers/ladder.h"
#include "analysis/answers/report.h"
#include "analysis/answers/shared_frame.h"
#include "analysis/answers/tuning.h"
#include "figures/gnuplot.h"

namespace mileage {

/// Draws the figure of a study and returns the bytes of the picture, 1280 pixels wide (PNG) or scalable (SVG). A study
/// at one place has bars instead of curves. Throws Error (cannot write) when gnuplot is missing.
std::string cost_figure(const Report& report, FigureFormat format);
/// The script that draws it.
std::string cost_figure_script(const Report& report, FigureFormat format);

/// The script that draws what a frame costs at the only place of a study, group by group.
std::string bars_figure_script(const Report& report, FigureFormat format);

/// Shares with their bands (95 %) and the line at 1, from which on another way is slower. Throws Error (usage) where
/// nothing stands against anything at two places, and (cannot write) when gnuplot is missing.
std::string ratio_figure(const About& about, const std::vector<SeriesAgainst>& answer, FigureFormat format);
/// Whether anything stands against another at two places, so that there is something to draw.
bool has_ratios(const std::vector<SeriesAgainst>& answer);
/// The script that draws it.
std::string ratio_figure_script(const About& about, const std::vector<SeriesAgainst>& answer, FigureFormat format);

/// Whether any cell notes work by worker, and whether any has single frames.
bool notes_work(const FramesAnswer& answer);
bool has_single_frames(const FramesAnswer& answer);
/// The busy time of each worker as sorted bars, the largest batch marked on them; of cells that note work. Throws as
/// frames_figure().
std::string work_figure(const About& about, const FramesAnswer& answer, FigureFormat format);
std::string work_figure_script(const About& about, const FramesAnswer& answer, FigureFormat format);
/// Throws Error (usage) where no cell has single frames, and (cannot write) when gnuplot is missing.
std::string frames_figure(const About& about, const FramesAnswer& answer, FigureFormat format);
/// The script that draws it.
std::string frames_figure_script(const About& about, const FramesAnswer& answer, FigureFormat format);

/// A band for each value of the knob, in the colour of the variant to use along the axis; pale where no difference pays
/// off or what was in use below was not measured, with the interval of every border. Throws Error (cannot write) when
/// gnuplot is missing.
std::string choice_map_figure(const About& about, const ChoiceAnswer& answer, const ChoiceMap& map,
                              FigureFormat format);
/// The script that draws it.
std::string choice_map_figure_script(const About& about, const ChoiceAnswer& answer, const ChoiceMap& map,
                                     FigureFormat format);

/// Whether a series has a capacity at two places, as a figure needs.
bool has_map(const SharedFrameAnswer& answer);
/// The largest counts of both systems that fit together: below a curve they do. Throws Error (usage) where
/// there is no map, and (cannot write) when gnuplot is missing.
std::string shared_frame_figure(const About& about, const SharedFrameAnswer& answer, FigureFormat format);
/// The script that draws it.
std::string shared_frame_figure_script(const About& about, const SharedFrameAnswer& answer, FigureFormat format);

/// Whether the knob is a single numeric one.
bool can_draw_tuning(const TuningAnswer& answer);
/// Cost over one numeric knob, a curve for each count, with the plateau marked. Throws Error (usage) where the knob is
/// not a single numeric one, and (cannot write) when gnuplot is missing.
std::string tuning_figure(const About& about, const TuningAnswer& answer, FigureFormat format);
/// The script that draws it.
std::string tuning_figure_script(const About& about, const TuningAnswer& answer, FigureFormat format);

/// Rung by rung the cost with its interval, and the budget across. Throws Error (usage) below two rungs, and (cannot
/// write) when gnuplot is missing.
std::string ladder_figure(const About& about, const LadderAnswer& answer, FigureFormat format);
/// The script that draws it.
std::string ladder_figure_script(const About& about, const LadderAnswer& answer, FigureFormat format);

}  // namespace mileage
