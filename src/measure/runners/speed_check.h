// Whether a visit's frames can be true.
#pragma once

#include <optional>
#include <string>

#include "study/study.h"

namespace mileage {

/// Shortest time in nanoseconds that one core can take for touching one entity: no processor reads or writes memory
/// faster. A frame whose "updates" would have taken less is too fast to be true.
inline constexpr double fastest_touch_ns = 0.005;

/// Why the frames of a visit are too fast for the "updates" that they claim, on all cores of this machine; nothing
/// where they are not, where it claims none, and for a variant that may skip entities.
std::optional<std::string> too_fast_to_be_true(const Visit& visit, const VariantFacts& facts);

}  // namespace mileage
