// Numbers read from the counts close around them, whatever the law: a parabola in log-log through a few points is right
// where a law over the whole range is bent by caches.
#pragma once

#include <optional>

#include "analysis/statistics/cell_means.h"
#include "analysis/statistics/laws.h"
#include "analysis/statistics/statistics.h"

namespace mileage {

/// The stretch of the axis that a local reading rests on.
struct Window {
  double min = 0;
  double max = 0;
};

/// The five points nearest to x by ratio, when they all lie within a factor of 1.6 of it and some on either side; else
/// the three nearest, within 1.4; else nothing: no counts stand close enough. Points with less than half the runs of
/// the best measured one within 1.6 do not count where three others do: they were aimed at before it was known better.
/// Nor do, ever, points with less than a quarter of the usual runs; and of points within 1.05 of each other one is
/// counted.
std::optional<Window> window_around(const Points& points, double x);

/// All points within a factor `within` of x, where there are five at least, on both sides of it: for a value so flat
/// that noise drowns it in a closer window.
std::optional<Window> wide_window_around(const Points& points, double x, double within);

/// From where to where a reading in a window may be used.
Interval reach_of(const Window& window);

/// A parabola in log-log, by weighted least squares through the points in a window (a straight line where there are two
/// of them). Its bend has a prior, which counts against the noise of the runs (A. E. Hoerl, R. W. Kennard, "Ridge
/// Regression", Technometrics 12, 1970): through few noisy points a free parabola rests on the middle one alone.
class LocalFit {
 public:
  /// `noise` is that of one run; where it is not known, the bend is free. Nothing where the window holds fewer than
  /// two points.
  static std::optional<LocalFit> through(const Points& points, const Window& window, const Noise& noise);

  double value_at(double x) const;
  /// Where the value passes through `slowdown`, upwards or downwards: the place nearest to the middle of the window, no
  /// farther outside it than a factor of 1.25. Nothing when there is none.
  std::optional<double> crossing(double slowdown, bool upward) const;
  double slope_at(double x) const;
  /// Standard error of the value at x from the noise of the runs and the prior of the bend.
  double error_at(double x) const;

  /// 95 % half-width that the value at x has from points that scatter around the free parabola by more than their noise
  /// and their uncertainty explain (F-test at 5 %): some counts are slower than their neighbours in every block, by how
  /// they lie in memory. So few points tell little of how large that is: usual deviations from the law count beside
  /// what they show (a variance with a prior: G. K. Smyth, Statistical Applications in Genetics and Molecular Biology
  /// 3, 2004). 0 where they do not scatter, and where there are not more points than coefficients. Points that a stray
  /// run or two made do not count here.
  double scatter_at(double x) const;

 private:
  Window window_;
  double middle_ = 1;  ///< Geometric middle of the window; coefficients are of log(x / middle).
  Noise noise_;
  double coefficients_[3] = {0, 0, 0};
  double squared_residuals_ =
      0;                        ///< Weighted sum of squared differences of points measured often from a free parabola.
  double expected_ = 0;         ///< What noise and uncertainty make of that sum, each degree of freedom,
  double with_deviations_ = 0;  ///< and with usual deviations from the law of places.
  int degrees_of_freedom_ = 0;  ///< Points less coefficients.
  double inverse_[3][3] = {};   ///< Of the normal matrix.

  void read_scatter(const Points& points);
  double leverage_at(double x) const;
};

}  // namespace mileage
