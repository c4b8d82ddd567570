// Answers shared by verbs.
#pragma once

#include <string>
#include <vector>

#include "analysis/answers/about.h"
#include "analysis/answers/questions.h"
#include "views/answer.h"

namespace mileage {

struct Analysis;

/// With arrivals, devices and limits.
Answer capacity_of(const About& about, const Analysis& analysis, const Questions& questions);

/// Cost at a single count; break-evens first if they were the goal; else capacities.
Answer first_answer(const About& about, const Analysis& analysis);

std::vector<std::string> next_commands(const About& about, const std::string& study);

}  // namespace mileage
