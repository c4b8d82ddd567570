#pragma once

#include <optional>
#include <string>

#include "study/study.h"

namespace mileage {

/// Why frames are too fast: all cores would need more than twice as long for a bare pass over one byte per entity
/// (touch_speed.h; entities: counter "updates", else the count). Nothing if plausible, for variants that may skip
/// entities, and on devices.
std::optional<std::string> too_fast_to_be_true(const Run& run, const VariantFacts& facts);

}  // namespace mileage
