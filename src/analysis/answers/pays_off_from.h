// From which place switching from one series to another pays off.
#pragma once

#include <optional>

#include "analysis/curves/reading.h"

namespace mileage {

class Pair;

struct PaysOffFrom {
  double at = 0;        ///< At least the lower end of the common range.
  Interval interval;    ///< Open if it may pay off below the range.
  double saves_ms = 0;  ///< At `range_ends`.
  double range_ends = 0;
};

/// From which place the other of a pair saves more than `min_saving_ms` (>= 0) per frame, up to the end of the range.
/// Nothing if the saving at the end is not significantly above it, or without a common range.
std::optional<PaysOffFrom> pays_off_from(const Pair& pair, double min_saving_ms);

}  // namespace mileage
