// The answer of `ladder`: what each change brings, and what they come to.
#pragma once

#include <string>

#include "analysis/answers/about.h"
#include "analysis/answers/ladder.h"
#include "study/study_json.h"
#include "views/gnuplot.h"
#include "views/text_table.h"

namespace mileage {

/// "At 100k lanterns, 4 changes take 0.11 of the time of the base (0.10 to 0.12); from batch=1k on it is within 16.7
/// ms."
std::string ladder_sentence(const About& about, const LadderAnswer& answer);

/// What each rung costs, and its capacity where any of them was measured that far.
TextTable ladder_table(const About& about, const LadderAnswer& answer);
/// What each change brings on top of those before it, by itself, and at the end.
TextTable changes_table(const LadderAnswer& answer);

std::string ladder_text(const About& about, const LadderAnswer& answer);

/// Adds rows "rungs" and "ladder".
void add_ladder_json(Json& json, const About& about, const LadderAnswer& answer);

/// Rung by rung the cost with its interval, and the budget across. Throws Error (usage) below two rungs, and (cannot
/// write) when gnuplot is missing.
std::string ladder_figure(const About& about, const LadderAnswer& answer, FigureFormat format);
/// The script that draws it.
std::string ladder_figure_script(const About& about, const LadderAnswer& answer, FigureFormat format);

}  // namespace mileage
