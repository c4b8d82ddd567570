// The interpolant of a curve between its points: where no count stands close enough for a local reading, a law lends
// its shape, and the points around the place keep the slowdown.
#pragma once

#include <optional>
#include <vector>

#include "analysis/statistics/laws.h"
#include "analysis/statistics/steps.h"

namespace mileage {

/// What may be wrong with a reading between points, on the log scale. Signed, so that what bends two curves alike is no
/// bend of their difference.
struct Bend {
  double parabola = 0;  ///< How far a parabola lies above the reading,
  double variance = 0;  ///< and the variance that noise gives to that.
  double other = 0;     ///< How far another interpolant lies above it.
  double step = 0;      ///< Jump in cost that it lies in, without a sign.
  bool of_two = false;  ///< Whether it is of a difference.

  /// Of all that noise does not explain.
  double half_width() const;
  /// Of the difference of two readings, of which the other counts as much as `share`.
  Bend less(const Bend& subtracted, double share) const;
};

/// Groups of neighbouring points, joined by what is straight in log-log above a law, or above nothing.
class Interpolant {
 public:
  Interpolant() = default;
  /// One point at least. Points within a factor of 1.25 are one group, by their weights, unless one of the steps lies
  /// between them; groups that weigh less than a quarter of what is usual (a stray run or two) do not count between
  /// others that are no more than a factor of 4 apart.
  Interpolant(const Points& points, const std::optional<Law>& shape, const std::vector<Step>& steps = {});

  /// Natural logarithm of the cost in ms. Outside the groups: above the law by as much as the nearest group.
  double log_ms_at(double x) const;
  /// The same with a parabola through the three nearest groups in place of the straight line; nothing where there are
  /// not three, or outside of them.
  std::optional<double> curved_log_ms_at(double x) const;
  /// How far the parabola lies above the straight line; 0 where there is none. `variance` is that of one run.
  Bend bend_at(double x, double variance) const;
  /// Variance of log_ms_at(x), in those of one run.
  double variance_at(double x) const;
  /// Groups that readings are between.
  Eigen::Index groups() const { return groups_.x.size(); }
  /// Whether the law has a knee between the two groups that x lies between.
  bool has_knee_around(double x) const;

 private:
  bool is_inside(double x) const;
  Eigen::Index left_of(double x) const;
  Eigen::ArrayXd parabola(double x) const;
  double shape_at(double x) const { return shape_ ? mileage::log_ms_at(*shape_, x) : 0; }

  std::optional<Law> shape_;
  Points groups_;  ///< What is left above the law.
};

}  // namespace mileage
