// Statistics used by the analysis; pure functions.
#pragma once

#include <cmath>
#include <optional>
#include <vector>

#include "analysis/statistics/interval.h"
#include "types/order_statistics.h"

namespace mileage {

/// At equal ratios from `min` to `max` (0 < min <= max), both included.
std::vector<double> places_between(double min, double max, int how_many);

/// Of Student's t; `degrees_of_freedom` > 0 may be fractional or infinite; probability in (0, 1).
double t_quantile(double probability, double degrees_of_freedom);

/// Sign test, for independent pairs; open below six values.
Interval median_interval(std::vector<double> values);

/// Ratio of two times measured in pairs.
struct PairedRatio {
  double ratio = 1;  ///< Median of one / other.
  Interval interval;

  /// Whether the interval is closed and inside [low, high].
  bool surely_within(double low, double high) const;
  /// -1: the one is significantly faster, 1: slower, 0: inconclusive.
  int verdict() const;
};
/// Lists of equal length >= 1 with times > 0.
PairedRatio paired_ratio(const std::vector<double>& one, const std::vector<double>& other);

/// Standard error from B values without one block each: sqrt((B-1)/B * sum (v - mean v)^2); infinity below three.
/// R. G. Miller, "The jackknife - a review", Biometrika 61 (1974).
double jackknife_error(const std::vector<double>& without_each_block);

/// Two-sided 95 % point of Student's t with blocks - 1 (>= 1) degrees of freedom.
double t_factor(std::size_t blocks);

}  // namespace mileage
