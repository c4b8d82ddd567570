// Growth laws: how the cost of a frame may depend on what stands on the axis, and their fit to points.
#pragma once

#include <optional>

#include <Eigen/Core>

namespace mileage {

enum class LawKind {
  constant,  ///< fixed
  linear,    ///< fixed + coefficient * x
  power      ///< fixed + coefficient * x^exponent
};

/// A law with its coefficients. fixed_ms >= 0, coefficient >= 0, not both zero.
struct Law {
  LawKind kind = LawKind::constant;
  double fixed_ms = 0;
  double coefficient = 0;  ///< Milliseconds per unit of x^exponent.
  double exponent = 0;     ///< 0 for constant, 1 for linear.

  /// Natural logarithm of the cost in milliseconds at x > 0.
  double log_ms_at(double x) const;
};

/// Number of coefficients that a fit of this law chooses freely; also its rank in simplicity.
int free_coefficients(LawKind kind);

/// What a law is fitted to: one value per place on the axis. All arrays have the same length; x > 0 ascending.
struct Points {
  Eigen::ArrayXd x;
  Eigen::ArrayXd log_ms;
  Eigen::ArrayXd weight;  ///< > 0, in proportion to the number of visits.
};

struct LawFit {
  Law law;
  double misfit = 0;  ///< Weighted sum of squared differences on the log scale.
};

/// The law of this kind with the smallest misfit under the signs given above. Errors are multiplicative, so that the
/// fit is of log cost: damped Gauss-Newton steps in the logarithms of the coefficients (and the exponent itself, between
/// 0.02 and 6), once with each coefficient present or absent, from several starts. Nothing when there are not more
/// points than free coefficients. Deterministic. Coefficients are good to about 1e-8 where the optimum is interior.
std::optional<LawFit> fit_law(LawKind kind, const Points& points);

}  // namespace mileage
