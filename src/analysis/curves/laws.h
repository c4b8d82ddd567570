// Names of curves: the simplest law that fits within the uncertainty.
#pragma once

#include <optional>
#include <vector>

#include <Eigen/Core>

#include "analysis/curves/series_curve.h"
#include "analysis/statistics/law.h"

namespace mileage {

/// x > 0.
double log_ms_at(const Law& law, double x);
/// Contribution of one coefficient at x > 0, in ms; not for a law with a knee.
double term_ms_at(const Law& law, std::size_t term, double x);

/// Non-negative least squares on relative residuals; exponents from 0.05 to 6, knees between the second and the last
/// but one place. Nothing unless there are more places than coefficients. `weight` > 0. 5 us to 1 ms.
std::optional<Law> fit_law(LawKind kind, const std::vector<double>& x, const Eigen::ArrayXd& log_ms,
                           const Eigen::ArrayXd& weight);

struct LawTest {
  Law law;
  double deviation = 0;  ///< Largest, log scale.
  bool fits = false;
};

struct LawNames {
  NotNamed why = NotNamed::named;
  std::vector<Law> laws;         ///< Equally simple ones that fit, best first.
  double largest_deviation = 0;  ///< Of the best, log scale.
  std::vector<LawTest> tests;    ///< Simplest first, up to those that fit.
  Interval knee;                 ///< Other knees that fit.
};

/// A law fits if it stays at every place within 95 % of draws (jointly, ignoring a common shift) or within 3 %; if none
/// does, within 10 %. Places below a step are lifted first. No name if draws scatter by more than 10 %: any law would
/// fit.
LawNames name_laws(const SeriesCurve& curve);

}  // namespace mileage
