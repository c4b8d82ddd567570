// The answer of `cost`.
#pragma once

#include <string>

#include "analysis/answers/about.h"
#include "analysis/answers/cost.h"
#include "views/answer.h"

namespace mileage {

/// "At 50k lanterns: jobs 0.291 ms, columns 0.519, objects 2.42. All fit 16.7 ms."
std::string cost_sentence(const About& about, const GroupCosts& group, const PlaceCosts& place,
                          const CostAnswer& answer);

/// Costs by count, what else differs between the variants, and their effort.
Answer cost_view(const About& about, const CostAnswer& answer);

}  // namespace mileage
