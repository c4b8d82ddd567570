// Whether a run's frames can be true.
#pragma once

#include <optional>
#include <string>

#include "study/study.h"

namespace mileage {

/// Why the frames of a run are too fast: all cores of this machine together would have taken more than twice as long
/// for a bare pass over one byte of each entity (touch_speed.h). Entities are those of the counter "updates", else
/// those of the run. Nothing where they are not, for a variant that may skip entities, and for one on a graphics
/// device.
std::optional<std::string> too_fast_to_be_true(const Run& run, const VariantFacts& facts);

}  // namespace mileage
