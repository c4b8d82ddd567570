// Growth laws: how the cost of a frame may depend on what stands on the axis, and their fit to points.
#pragma once

#include <optional>
#include <vector>

#include <Eigen/Core>

#include "analysis/statistics/law.h"

namespace mileage {

/// Natural logarithm of the cost in milliseconds at x > 0.
double log_ms_at(const Law& law, double x);
/// What one coefficient of a law without knees adds at x > 0.
double term_ms_at(const Law& law, std::size_t term, double x);
/// Local exponent at x > 0: by how many percent the cost grows for one percent more.
double exponent_at(const Law& law, double x);

/// Number of coefficients that a fit of this law chooses freely: its own, the fixed cost, an exponent and knees.
int free_coefficients(LawKind kind);

/// Laws of the same tier are equally simple: constant | linear, N log N, quadratic | linear and quadratic, power | one
/// knee | two knees.
int tier_of(LawKind kind);

/// What a law is fitted to: one value per place on the axis. All arrays have the same length; x > 0 ascending.
struct Points {
  Eigen::ArrayXd x;
  Eigen::ArrayXd log_ms;
  Eigen::ArrayXd weight;  ///< > 0, in proportion to the inverse of the variance: the number of runs, or less.
  /// Covariance of the values beside the noise of runs: those of a fast and of a slow run, corrected to one slowdown,
  /// differ as far as that is uncertain. Empty: none.
  Eigen::MatrixXd uncertainty = {};

  /// The points of these rows.
  Points at(const std::vector<Eigen::Index>& rows) const;
};

/// Below it a point is a stray run or two: a quarter of the usual weight.
double stray_weight(const Points& points);

struct LawFit {
  Law law;
  double squared_residuals = 0;  ///< Weighted sum of squared differences on the log scale.
};

/// The law of this kind with the smallest sum of squared residuals under the signs given above. Errors are
/// multiplicative, so that the fit is of log cost. For given exponent and knees: Gauss-Newton steps in the
/// coefficients, each a least-squares problem without negative coefficients (solved exactly, over all subsets of them).
/// Exponent (between 0.02 and 6) and knees (between the second place and the last but one, two places at least apart)
/// are searched on a grid and then polished together with the coefficients (damped Gauss-Newton; Levenberg 1944,
/// Marquardt 1963). Nothing when there are not more points than free coefficients. Deterministic. Coefficients are good
/// to about 1e-8 where the optimum is interior. 10 us to 3 ms.
std::optional<LawFit> fit_law(LawKind kind, const Points& points);

/// Root mean square error, on the log scale, of predicting each place from a fit to the others. Nothing where there are
/// not enough places for it. Costs one fit per place.
std::optional<double> left_out_error(LawKind kind, const Points& points);

}  // namespace mileage
