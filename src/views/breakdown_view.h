// The answer of `cost --between`: what the difference of two series is made of.
#pragma once

#include <string>

#include "analysis/answers/about.h"
#include "analysis/answers/breakdown.h"
#include "study/study_json.h"
#include "views/text_table.h"

namespace mileage {

/// "At 100k lanterns, mirrored takes 1.1 ms more than columns (1.05 to 1.16): gather +0.6 (0.5 to 0.7), write back
/// +0.45; outside any phase 0.02." Parts that are next to nothing are left to the table.
std::string breakdown_sentence(const About& about, const PairBreakdown& pair);

/// Part by part: both series, and the difference.
TextTable breakdown_table(const About& about, const PairBreakdown& pair);

/// What would be left without each phase, and the capacity then.
TextTable floors_table(const About& about, const BreakdownAnswer& answer);

std::string breakdown_text(const About& about, const BreakdownAnswer& answer);

/// Adds rows "differences", "difference_parts", "difference_counters" and "floors".
void add_breakdown_json(Json& json, const About& about, const BreakdownAnswer& answer);

}  // namespace mileage
