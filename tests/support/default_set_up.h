#pragma once

#include <cstdint>
#include <map>
#include <string>

#include "mileage/festival/festival.h"
#include "mileage/types/catalogue.h"

namespace mileage {

/// `knobs` replace defaults.
inline SetUp default_set_up(const Scenario& scenario, std::int64_t count,
                            const std::map<std::string, double>& knobs = {}) {
  SetUp set_up{count, 1, scenario.step_s, {}};
  for (const Knob& knob : scenario.knobs) set_up.knobs.set(knob.name, knob.default_value);
  for (const VariantFacts& variant : scenario.variants)
    for (const Knob& knob : variant.knobs) set_up.knobs.set(knob.name, knob.default_value);
  for (const auto& [name, value] : knobs) set_up.knobs.set(name, value);
  return set_up;
}

inline SetUp drift_set_up(std::int64_t count, const std::map<std::string, double>& knobs = {}) {
  Catalogue catalogue;
  add_festival(catalogue);
  return default_set_up(*catalogue.find("drift"), count, knobs);
}

}  // namespace mileage
