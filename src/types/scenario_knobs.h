// The knobs of a variant, wherever they were declared.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "mileage/types/catalogue.h"

namespace mileage {

/// Those of the scenario that touch the variant, then its own. Of a variant that the scenario does not have, only the
/// former.
std::vector<Knob> knobs_of(const Scenario& scenario, std::string_view variant);

/// Whether a knob of the variant has this value when nobody says otherwise.
bool is_default_value(const Scenario& scenario, std::string_view variant, const std::string& knob,
                      const KnobValue& value);

}  // namespace mileage
