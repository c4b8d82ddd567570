// Answers that several verbs give from an analysed study.
#pragma once

#include <string>
#include <vector>

#include "analysis/answers/about.h"
#include "analysis/answers/questions.h"
#include "views/answer.h"

namespace mileage {

struct Analysis;

/// Capacities with arrivals, devices and what runs out first.
Answer capacity_of(const About& about, const Analysis& analysis, const Questions& questions);

/// What to say first of a study: what a frame costs where there is one count alone, break-evens before capacities where
/// these were its goal, else capacities.
Answer first_answer(const About& about, const Analysis& analysis);

/// The two commands that say more of a study.
std::vector<std::string> next_commands(const About& about, const std::string& study);

}  // namespace mileage
