// How fast this machine can touch memory at all.
#pragma once

#include <cstdint>

namespace mileage {

/// Nanoseconds that one core takes for a bare pass over this many bytes, one for each entity: the fastest of a few,
/// with the widest vectors that the C library has for this processor. Beyond 16 MB in proportion. Takes as long as
/// that.
double touch_ns(std::int64_t bytes);

}  // namespace mileage
