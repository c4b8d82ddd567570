// The answer of `ladder`: what each change brings, and what they come to.
#pragma once

#include <string>

#include "analysis/answers/about.h"
#include "analysis/answers/ladder.h"
#include "views/answer.h"
#include "views/gnuplot.h"

namespace mileage {

/// "At 100k lanterns, 4 changes together: 13.9 → 1.01 ms (0.07x, 0.07 to 0.08)."
std::string ladder_sentence(const About& about, const LadderAnswer& answer);

/// What each change brings on top of those before it, alone, and removed from the last.
Answer ladder_view(const About& about, const LadderAnswer& answer);

/// Rung by rung the cost with its interval, and the budget across. Throws Error (usage) below two rungs, and (cannot
/// write) when gnuplot is missing.
std::string ladder_figure(const About& about, const LadderAnswer& answer, FigureFormat format);
/// The script that draws it.
std::string ladder_figure_script(const About& about, const LadderAnswer& answer, FigureFormat format);

}  // namespace mileage
