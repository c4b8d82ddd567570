// The answer of `capacity`.
#pragma once

#include <string>
#include <vector>

#include "analysis/answers/about.h"
#include "analysis/answers/capacity.h"
#include "analysis/answers/limits.h"
#include "views/answer.h"

namespace mileage {

/// "At 60 Hz (16.7 ms): jobs 3.19M lanterns, columns 1.62M."
std::string capacity_sentence(const About& about, const CapacityAnswer& answer, double budget_ms);

/// Capacities and headroom budget by budget, notes on how they were read, and the commands that measure what is
/// missing. `limits` are those of the first budget.
Answer capacity_view(const About& about, const CapacityAnswer& answer, const LimitsAnswer& limits);

/// "341k (331k to 354k)", or how far the capacity is known to go: "more than 300k", "below 1k".
Entry capacity_cell(const About& about, const Capacity& capacity);

/// Commands that measure what a capacity lacks where extrapolating ends.
std::vector<std::string> missing_measurements(const About& about, const CapacityAnswer& answer);

}  // namespace mileage
