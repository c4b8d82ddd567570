// Curves at this many places that they can be drawn.
#pragma once

#include <vector>

#include "analysis/statistics/interval.h"

namespace mileage {

struct Analysis;

struct SampledPoint {
  double x = 0;
  double ms = 0;
  Interval interval;  ///< 95 %.
};

/// One per series, from its smallest to its largest measured place at equal ratios; `steps` + 1 places each.
std::vector<std::vector<SampledPoint>> sampled_curves(const Analysis& analysis, int steps);

}  // namespace mileage
