// From which place on the axis a change from one series to another pays off.
#pragma once

#include <optional>

#include "analysis/curves/reading.h"

namespace mileage {

class Pair;

/// From `at` on, as far as both were measured, the other saves more than it has to.
struct PaysOffFrom {
  double at = 0;          ///< The lower end of the common range where it does so from there on.
  Interval interval;      ///< 95 %; the lower end is open where it may pay off below the range.
  double saves_ms = 0;    ///< At the upper end of the range,
  double range_ends = 0;  ///< which is here.
};

/// From which place on the other of a pair saves more than `min_saving_ms` (>= 0) a frame against the one: the last
/// place where the difference less that worth turns positive, of each draw. Nothing where the saving at the upper end
/// of the range that both are known in is not surely more than that, and where there is no such range.
std::optional<PaysOffFrom> pays_off_from(const Pair& pair, double min_saving_ms);

}  // namespace mileage
