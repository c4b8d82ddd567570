// From which place on the axis a change from one series to another pays off.
#pragma once

#include <optional>

#include "analysis/curves/reading.h"

namespace mileage {

class Pair;

/// From `at` on, as far as both were measured, the other saves more than it has to.
struct PaysOffFrom {
  double at = 0;          ///< The lower end of the common range where it does so from there on.
  Interval interval;      ///< 95 %: from the largest place where it surely does not, to the smallest from which on it
                          ///< surely does. An end is open where there is no such place.
  double saves_ms = 0;    ///< At the upper end of the range,
  double range_ends = 0;  ///< which is here.
};

/// From which place on the other of a pair saves more than `min_saving_ms` (>= 0) a frame against the one: the last
/// place where the difference less that worth turns positive, along both curves. Its interval inverts the pointwise 95
/// % band of that difference (E. C. Fieller, "Some problems in interval estimation", 1954). Nothing where the saving at
/// the upper end of the range that both have measured (often enough to detect a spike, if any place was) is not
/// significantly more than that, corrected for the number of places where it might be; where there is no such range,
/// and below three blocks.
std::optional<PaysOffFrom> pays_off_from(const Pair& pair, double min_saving_ms);

}  // namespace mileage
