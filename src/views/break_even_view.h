// The answer of `breakeven`.
#pragma once

#include <string>

#include "analysis/answers/about.h"
#include "analysis/answers/break_even.h"
#include "views/answer.h"

namespace mileage {

/// "Switch from records to columns at 9.3k lanterns, and to jobs at 71.7k." Where nothing pays off, what is the case.
std::string break_even_sentence(const About& about, const BreakEvenAnswer& answer);

/// From where a switch pays off, and where curves cross.
Answer break_even_view(const About& about, const BreakEvenAnswer& answer);

}  // namespace mileage
