// What runs out first at a capacity; memory limits and fixed ticks.
#pragma once

#include <string>

#include "analysis/answers/about.h"
#include "analysis/answers/limits.h"
#include "views/answer.h"

namespace mileage {

/// The resource that ends a series: "main thread", "all 2 cores", "memory traffic"; empty where it is not known.
std::string limited_by(const About& about, const LimitsAnswer& answer, std::size_t series);

/// Capacity by resource with its evidence (--more); memory and ticks where they were asked for.
Answer limits_view(const About& about, const LimitsAnswer& answer);

}  // namespace mileage
