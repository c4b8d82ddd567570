// Names of curves: the simplest law that fits a curve within its uncertainty.
#pragma once

#include <optional>
#include <vector>

#include <Eigen/Core>

#include "analysis/curves/series_curve.h"
#include "analysis/statistics/law.h"

namespace mileage {

/// Natural logarithm of the cost in ms at x > 0.
double log_ms_at(const Law& law, double x);
/// What one coefficient of a law without a knee adds at x > 0, in ms.
double term_ms_at(const Law& law, std::size_t term, double x);

/// The law of this kind with the least squared relative residuals, none of its coefficients below zero; the exponent is
/// between 0.05 and 6, a knee between the second place and the last but one. Nothing when there are not more places
/// than free coefficients. `weight` > 0, in proportion to inverse variances. 5 us to 1 ms.
std::optional<Law> fit_law(LawKind kind, const std::vector<double>& x, const Eigen::ArrayXd& log_ms,
                           const Eigen::ArrayXd& weight);

/// A law compared with a curve.
struct LawTest {
  Law law;
  double deviation = 0;  ///< Largest, log scale.
  bool fits = false;
};

struct LawNames {
  NotNamed why = NotNamed::named;
  std::vector<Law> laws;         ///< Equally simple ones that fit, the nearest first.
  double largest_deviation = 0;  ///< Of the nearest, log scale.
  std::vector<LawTest> tests;    ///< Simplest first, up to those that fit.
  Interval knee;                 ///< Of a law with one: places of a knee that fit, too.
};

/// A law fits that stays at every measured place within 95 % of the draws (together; a shift of the whole curve is
/// none), or within 3 %, by which real programs differ from any; where none does, within 10 %. Steps are taken out of
/// the curve first: places below one are lifted to what is beyond it. No name is given where the draws are apart by
/// more than 10 %, since any would fit.
LawNames name_laws(const SeriesCurve& curve);

}  // namespace mileage
