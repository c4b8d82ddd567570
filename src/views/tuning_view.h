// The answer of `tune`: best values, plateaus, what presets lose; workers.
#pragma once

#include <string>

#include "analysis/answers/about.h"
#include "analysis/answers/tuning.h"
#include "study/study_json.h"
#include "views/gnuplot.h"
#include "views/text_table.h"

namespace mileage {

/// "At 100k lanterns, batch 4,096 is best (512 to 65.5k may be); as good: 256 to 131k; the preset (4,096) is among
/// them."
std::string tuning_sentence(const About& about, const TuningAnswer& answer, const TunedAt& at);

TextTable tuning_table(const About& about, const TuningAnswer& answer, const TunedAt& at);

std::string tuning_text(const About& about, const TuningAnswer& answer);

/// Adds rows "tuned", "scaling" and "workers".
void add_tuning_json(Json& json, const About& about, const TuningAnswer& answer);

/// Whether the knob is a single numeric one.
bool can_draw_tuning(const TuningAnswer& answer);
/// Cost over one numeric knob, a curve for each count, with the plateau marked. Throws Error (usage) where the knob is
/// not a single numeric one, and (cannot write) when gnuplot is missing.
std::string tuning_figure(const About& about, const TuningAnswer& answer, FigureFormat format);
/// The script that draws it.
std::string tuning_figure_script(const About& about, const TuningAnswer& answer, FigureFormat format);

}  // namespace mileage
