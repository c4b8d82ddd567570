#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "mileage/types/catalogue.h"

namespace mileage {

/// Scenario knobs that affect the variant, then its own.
std::vector<Knob> knobs_of(const Scenario& scenario, std::string_view variant);

bool is_default_value(const Scenario& scenario, std::string_view variant, const std::string& knob,
                      const KnobValue& value);

}  // namespace mileage
