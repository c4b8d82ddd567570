// Median and the like.
#pragma once

#include <vector>

namespace mileage {

/// Median of the values: the mean of the two middle ones for an even number. Needs at least one value, none NaN.
/// Linear time.
double median(std::vector<double> values);

/// Standard deviation estimated from the median distance to the median (times 1.4826, the factor for a normal
/// distribution). 0 for fewer than two values.
double robust_sd(std::vector<double> values);

/// What 99 % of values stay below: the k-th of n lies above a share of k / (n + 1) on average. Needs at least one.
/// Linear time.
double percentile_99(std::vector<float> values);

}  // namespace mileage
