// The answer of `cost --between`: what a difference is made of.
#pragma once

#include "analysis/answers/about.h"
#include "analysis/answers/breakdown.h"
#include "views/answer.h"

namespace mileage {

/// Pair by pair: the difference, its parts, counters that differ; then what frames would take without each phase.
Answer breakdown_view(const About& about, const BreakdownAnswer& answer);

}  // namespace mileage
