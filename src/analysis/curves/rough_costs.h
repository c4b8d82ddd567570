// Estimates from few runs during measuring, with the joint model's priors.
#pragma once

#include <cstdint>
#include <map>
#include <optional>

#include "analysis/evidence/disturbance_filter.h"
#include "analysis/statistics/interval.h"

namespace mileage {

/// At full speed, by the usual response. Needs samples.
double rough_fast_ms(const DisturbanceFilter& judge, const Run& run);
/// Its standard deviation, log scale, from differing responses.
double rough_fast_sd(const DisturbanceFilter& judge, const Run& run);

/// Typical value at a count; of two runs the smaller one, since spikes are long.
struct RoughPoint {
  double value = 0;  ///< > 0.
  int runs = 1;
};

/// Neighbouring counts between which values first pass `level` (> 0), if the joint model finds a step there.
/// `exponent`: usual growth, 1 for costs. Counts with one run are skipped. 1 to 5 ms.
std::optional<Interval> step_through(double level, const std::map<std::int64_t, RoughPoint>& points,
                                     double exponent = 1);

}  // namespace mileage
