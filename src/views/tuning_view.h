// The answer of `tune`: best values, what is as good, what defaults lose; workers.
#pragma once

#include <string>

#include "analysis/answers/about.h"
#include "analysis/answers/tuning.h"
#include "views/answer.h"
#include "views/gnuplot.h"

namespace mileage {

/// "At 100k lanterns: batch 16384 is fastest (1.31 ms), but anything from 16 to 16384 is within noise. Keep the default
/// (4096)."
std::string tuning_sentence(const About& about, const TuningAnswer& answer, const TunedAt& at);

/// Values by count, scaling with workers.
Answer tuning_view(const About& about, const TuningAnswer& answer);

/// Whether the knob is a single numeric one.
bool can_draw_tuning(const TuningAnswer& answer);
/// Cost over one numeric knob, a curve for each count, with the plateau marked. Throws Error (usage) where the knob is
/// not a single numeric one, and (cannot write) when gnuplot is missing.
std::string tuning_figure(const About& about, const TuningAnswer& answer, FigureFormat format);
/// The script that draws it.
std::string tuning_figure_script(const About& about, const TuningAnswer& answer, FigureFormat format);

}  // namespace mileage
