#include "types/scenario_knobs.h"

#include <algorithm>

namespace mileage {

std::vector<Knob> knobs_of(const Scenario& scenario, std::string_view variant) {
  std::vector<Knob> knobs;
  for (const Knob& knob : scenario.knobs)
    if (knob.is_affecting(variant)) knobs.push_back(knob);
  if (const VariantFacts* facts = scenario.find(variant))
    knobs.insert(knobs.end(), facts->knobs.begin(), facts->knobs.end());
  return knobs;
}

bool is_default_value(const Scenario& scenario, std::string_view variant, const std::string& name,
                      const KnobValue& value) {
  const std::vector<Knob> knobs = knobs_of(scenario, variant);
  return std::any_of(knobs.begin(), knobs.end(),
                     [&](const Knob& knob) { return knob.name == name && knob.default_value == value; });
}

}  // namespace mileage
