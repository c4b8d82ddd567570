// The answer of `choose`.
#pragma once

#include <string>
#include <vector>

#include "analysis/answers/about.h"
#include "analysis/answers/capacity.h"
#include "analysis/answers/choice.h"
#include "views/answer.h"

namespace mileage {

/// "Use objects up to 9k lanterns, columns up to 71.7k, jobs up to 3.19M. Above that nothing measured fits 16.7 ms."
std::string choice_sentence(const About& about, const ChoiceAnswer& answer, const GroupChoice& group);

/// The members of a group that are used anywhere, and the first.
std::vector<std::size_t> chosen_series(const GroupChoice& group);

/// Advice at the places asked for, what to use where with its strip, effort, and what one variant everywhere would lose
/// (--more).
Answer choice_view(const About& about, const ChoiceAnswer& answer, const CapacityAnswer& capacities);

}  // namespace mileage
