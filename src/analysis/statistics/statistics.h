// Small pieces of statistics that the analysis is made of. All are pure functions.
#pragma once

#include <cmath>
#include <optional>
#include <vector>

#include "analysis/statistics/interval.h"
#include "types/order_statistics.h"

namespace mileage {

/// Places at equal ratios from `min` to `max` (0 < min <= max), both included.
std::vector<double> places_between(double min, double max, int how_many);

/// Quantile of Student's t with `degrees_of_freedom` > 0 degrees of freedom, which need not be whole and may be
/// infinite (the normal distribution); probability in (0, 1).
double t_quantile(double probability, double degrees_of_freedom);

/// Probability that an F-distributed number with these degrees of freedom (both >= 1) exceeds `f`.
double f_p_value(double f, int degrees_of_freedom_above, int degrees_of_freedom_below);

/// 95 % interval for the median of paired ratios or differences, from order statistics (the sign test inverted), for
/// independent pairs. Open with fewer than six values. Sorts a copy.
Interval median_interval(std::vector<double> values);

/// How much one thing takes of the time of another, from times taken pair by pair under the same conditions.
struct PairedRatio {
  double ratio = 1;   ///< Median over the pairs of one / other.
  Interval interval;  ///< 95 %, by median_interval.

  /// Whether the whole interval lies in [low, high]; false for an open one.
  bool surely_within(double low, double high) const;
  /// -1 the one is surely faster, +1 surely slower, 0 is unknown.
  int verdict() const;
};
/// Both lists have the same length, at least one, and hold times above zero.
PairedRatio paired_ratio(const std::vector<double>& one, const std::vector<double>& other);

/// Standard error of a number from what it becomes without each block in turn: sqrt((B-1)/B * sum (v - mean v)^2), B
/// being the number of values; infinity below three. R. G. Miller, "The jackknife - a review", Biometrika 61 (1974).
double jackknife_error(const std::vector<double>& without_each_block);

/// A standard error, and the degrees of freedom that it is known by: infinitely many where it is given.
struct StandardError {
  double value = 0;
  double degrees_of_freedom = HUGE_VAL;

  /// Half-width of a 95 % interval, shared among `verdicts` verdicts that are given together (Bonferroni).
  double half_width(std::size_t verdicts = 1) const;
};

/// That of a sum of independent errors: F. E. Satterthwaite, "An approximate distribution of estimates of variance
/// components", Biometrics Bulletin 2 (1946). Infinite where one of them is.
StandardError sum_of(const std::vector<StandardError>& errors);

/// Student's t for a two-sided interval from B blocks (B - 1 degrees of freedom; B >= 2), at 95 % shared among
/// `verdicts` verdicts that are given together (Bonferroni); 1 for a number that stands for itself.
double t_factor(std::size_t blocks, std::size_t verdicts = 1);

}  // namespace mileage
