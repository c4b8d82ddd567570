// Figures and their gnuplot scripts. Throw Error: cannot write (no gnuplot), usage (nothing to draw).
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

/// PNG (1280 pixels wide) or SVG. Bars for a study at one place.
std::string cost_figure(const Report& report, FigureFormat format);
std::string cost_figure_script(const Report& report, FigureFormat format);

/// By group, at the study's only place.
std::string bars_figure_script(const Report& report, FigureFormat format);

/// Ratios with 95 % bands.
std::string ratio_figure(const About& about, const std::vector<SeriesAgainst>& answer, FigureFormat format);
/// At two places.
bool has_ratios(const std::vector<SeriesAgainst>& answer);
std::string ratio_figure_script(const About& about, const std::vector<SeriesAgainst>& answer, FigureFormat format);

/// Whether any cell notes work; has single frames.
bool notes_work(const FramesAnswer& answer);
bool has_single_frames(const FramesAnswer& answer);
/// Busy time by worker as sorted bars, with the largest batch.
std::string work_figure(const About& about, const FramesAnswer& answer, FigureFormat format);
std::string work_figure_script(const About& about, const FramesAnswer& answer, FigureFormat format);
std::string frames_figure(const About& about, const FramesAnswer& answer, FigureFormat format);
std::string frames_figure_script(const About& about, const FramesAnswer& answer, FigureFormat format);

/// A band per knob value in the color of the variant to use, pale where no difference pays off or is known, with
/// intervals of the borders.
std::string choice_map_figure(const About& about, const ChoiceAnswer& answer, const ChoiceMap& map,
                              FigureFormat format);
std::string choice_map_figure_script(const About& about, const ChoiceAnswer& answer, const ChoiceMap& map,
                                     FigureFormat format);

/// A capacity at two places.
bool has_map(const SharedFrameAnswer& answer);
/// Counts of both systems that fit together: below a curve.
std::string shared_frame_figure(const About& about, const SharedFrameAnswer& answer, FigureFormat format);
std::string shared_frame_figure_script(const About& about, const SharedFrameAnswer& answer, FigureFormat format);

/// A single numeric knob.
bool can_draw_tuning(const TuningAnswer& answer);
/// Cost over the knob by count, with the plateau.
std::string tuning_figure(const About& about, const TuningAnswer& answer, FigureFormat format);
std::string tuning_figure_script(const About& about, const TuningAnswer& answer, FigureFormat format);

/// Cost by rung with intervals, and the budget. Needs two rungs.
std::string ladder_figure(const About& about, const LadderAnswer& answer, FigureFormat format);
std::string ladder_figure_script(const About& about, const LadderAnswer& answer, FigureFormat format);

}  // namespace mileage
