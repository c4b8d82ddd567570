// What runs out first, in the answer of `capacity`; memory limits and fixed ticks.
#pragma once

#include <string>

#include "analysis/answers/about.h"
#include "analysis/answers/limits.h"
#include "study/study_json.h"
#include "views/text_table.h"

namespace mileage {

/// "the frame's thread", "memory traffic": what ends a series.
const char* resource_name(Resource what);

/// What ends each series, and how far each resource would go if all others cost nothing.
TextTable limits_table(const About& about, const LimitsAnswer& answer);

/// The table with a line of evidence for each series; memory and ticks where they were asked for.
std::string limits_text(const About& about, const LimitsAnswer& answer);

/// Adds rows "limits", "memory_capacities" and "ticks".
void add_limits_json(Json& json, const About& about, const LimitsAnswer& answer);

}  // namespace mileage
