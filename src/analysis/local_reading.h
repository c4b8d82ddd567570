// Numbers read from the counts close around them, whatever the law: a parabola in log-log through a few points is right
// where a law over the whole range is bent by caches.
#pragma once

#include <optional>

#include "analysis/laws.h"

namespace mileage {

/// The stretch of the axis that a local reading rests on.
struct Window {
  double least = 0;
  double most = 0;
};

/// The five points nearest to x by ratio, when they all lie within a factor of 1.6 of it and some on either side; else the
/// three nearest, within 1.35; else nothing: no counts stand close enough.
std::optional<Window> window_around(const Eigen::ArrayXd& places, double x);

/// A parabola in log-log, by weighted least squares through the points in a window (a straight line where there are two of
/// them).
class LocalFit {
 public:
  /// Nothing where the window holds fewer than two points.
  static std::optional<LocalFit> through(const Points& points, const Window& window);

  double value_at(double x) const;
  /// Where the value passes through `level`, upwards or downwards: the place nearest to the middle of the window, no
  /// farther outside it than a factor of 1.25. Nothing when there is none.
  std::optional<double> crossing(double level, bool upward) const;

 private:
  Window window_;
  double middle_ = 1;      ///< Geometric middle of the window; coefficients are of log(x / middle).
  double coefficients_[3] = {0, 0, 0};
};

}  // namespace mileage
