// What few runs show while a study is made, by the assumptions of the joint model.
#pragma once

#include <cstdint>
#include <map>
#include <optional>

#include "analysis/evidence/disturbance_filter.h"
#include "analysis/statistics/interval.h"

namespace mileage {

/// What a frame of a run would typically take at full speed, ms, by the usual response. The run must have samples.
double rough_fast_ms(const DisturbanceFilter& judge, const Run& run);
/// Its standard deviation, log scale, as far as responses differ.
double rough_fast_sd(const DisturbanceFilter& judge, const Run& run);

/// What runs have at a count: a typical value of this many of them, of two the smaller one, since spikes are long.
struct RoughPoint {
  double value = 0;  ///< More than 0.
  int runs = 1;
};

/// The two neighbouring counts between which the values pass `level` (> 0) for the first time, where the joint model
/// finds a step there; nothing where it does not. `exponent`: how they usually grow with the count, 1 of costs. Counts
/// of a single run are skipped. 1 to 5 ms.
std::optional<Interval> step_through(double level, const std::map<std::int64_t, RoughPoint>& points,
                                     double exponent = 1);

}  // namespace mileage
