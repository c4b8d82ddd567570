#pragma once

#include <vector>

namespace mileage {

/// At least one value, none NaN. Linear.
double median(std::vector<double> values);

/// 1.4826 times the median absolute deviation; 0 below two values.
double robust_sd(std::vector<double> values);

/// k-th of n values, above a share of k / (n + 1) on average. At least one. Linear.
double percentile_99(std::vector<float> values);

}  // namespace mileage
