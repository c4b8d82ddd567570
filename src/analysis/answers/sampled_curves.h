// Curves as points for figures.
#pragma once

#include <vector>

#include "analysis/statistics/interval.h"

namespace mileage {

struct Analysis;

struct SampledPoint {
  double x = 0;
  double ms = 0;
  Interval interval;
};

/// Per series, over its measured range at equal ratios: `steps` + 1 places.
std::vector<std::vector<SampledPoint>> sampled_curves(const Analysis& analysis, int steps);

}  // namespace mileage
