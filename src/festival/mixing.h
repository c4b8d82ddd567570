// Hashes of seed and index.
#pragma once

#include <cstdint>

#include "types/splitmix.h"

namespace mileage::festival {

using mileage::splitmix64;

/// Upper 24 bits as a number in [0, 1).
inline float share_of(std::uint64_t bits) { return static_cast<float>(bits >> 40) * 0x1p-24F; }

}  // namespace mileage::festival
