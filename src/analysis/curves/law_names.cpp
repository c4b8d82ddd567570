#include "analysis/curves/law_names.h"

#include <algorithm>
#include <cmath>

#include "analysis/curves/curve.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/statistics.h"

namespace mileage {
namespace {

double distance(const Law& law, const Points& points, Eigen::Index point) {
  return std::fabs(log_ms_at(law, points.x(point)) - points.log_ms(point));
}

double largest_distance(const Law& law, const Points& points) {
  double largest = 0;
  for (Eigen::Index i = 0; i < points.x.size(); ++i) largest = std::max(largest, distance(law, points, i));
  return largest;
}

/// Two laws of one tier that agree stand side by side.
LawNames named_by(NamedBy by, const std::vector<LawFit>& fits, const Points& points) {
  LawNames names;
  if (fits.empty()) return names;
  names.by = by;
  for (const LawFit& fit : fits) names.laws.push_back(fit.law);
  names.nearest = std::min_element(fits.begin(), fits.end(), [](const LawFit& a, const LawFit& b) {
                    return a.squared_residuals < b.squared_residuals;
                  })->law;
  names.largest_deviation = largest_distance(*names.nearest, points);
  return names;
}

std::vector<LawFit> not_rejected_by_noise(const std::vector<LawTest>& tests) {
  std::vector<LawFit> fits;
  for (const LawTest& test : tests)
    if (!test.rejected && test.fit.law.kind != LawKind::two_knees) fits.push_back(test.fit);
  return fits;
}

/// The same points with weights that count deviations from the law: the inverse of the variance itself.
Points with_deviations(const Points& points, const Noise& noise) {
  const double variance = std::max(noise.variance, min_sd * min_sd);
  return {points.x, points.log_ms, 1 / (variance / points.weight + law_deviation_sd * law_deviation_sd)};
}

std::vector<LawFit> not_rejected_with_deviations(const Points& points, const Noise& noise) {
  std::vector<LawFit> fits;
  for (const LawKind kind : all_laws) {
    if (kind == LawKind::two_knees || (!fits.empty() && tier_of(kind) > tier_of(fits.front().law.kind))) break;
    const auto fit = fit_law(kind, points);
    if (!fit) continue;
    const int degrees = static_cast<int>(points.x.size()) - free_coefficients(kind);
    if (f_p_value(fit->squared_residuals / degrees, degrees, noise.degrees_of_freedom) >= law_rejected_below)
      fits.push_back(*fit);
  }
  return fits;
}

/// A law with the largest deviation that the errors of the means do not explain.
struct Near {
  LawFit fit;
  double deviation;
};

std::vector<Near> near_laws(const Points& points, const Points& weighted, const Noise& noise) {
  std::vector<Near> all;
  for (const LawKind kind : all_laws) {
    const auto fit = fit_law(kind, weighted);
    if (!fit) continue;
    double deviation = 0;
    for (Eigen::Index i = 0; i < points.x.size(); ++i)
      deviation = std::max(
          deviation, distance(fit->law, points, i) - errors_of_a_mean * std::sqrt(noise.variance / points.weight(i)));
    all.push_back({*fit, deviation});
  }
  return all;
}

/// The simplest within the limit; a richer one only where it deviates much less.
std::vector<LawFit> simplest_within(const std::vector<Near>& laws, double limit) {
  const Near* best = nullptr;
  for (const Near& one : laws) {
    if (one.deviation > std::log1p(limit)) continue;
    const bool is_as_simple = best != nullptr && tier_of(one.fit.law.kind) == tier_of(best->fit.law.kind);
    const double wanted = best == nullptr ? HUGE_VAL : best->deviation * (is_as_simple ? 1 : richer_law_share);
    if (one.deviation < wanted) best = &one;
  }
  return best == nullptr ? std::vector<LawFit>{} : std::vector<LawFit>{best->fit};
}

}  // namespace

LawNames name_laws(const Points& points, const Noise& noise, const std::vector<LawTest>& tests) {
  if (tests.empty()) return {};
  if (const auto fits = not_rejected_by_noise(tests); !fits.empty()) return named_by(NamedBy::noise, fits, points);
  const Points weighted = with_deviations(points, noise);
  if (const auto fits = not_rejected_with_deviations(weighted, noise); !fits.empty())
    return named_by(NamedBy::law_deviations, fits, points);
  const std::vector<Near> laws = near_laws(points, weighted, noise);
  if (const auto fits = simplest_within(laws, near_law_within); !fits.empty())
    return named_by(NamedBy::near, fits, points);
  return named_by(NamedBy::rough, simplest_within(laws, rough_law_within), points);
}

}  // namespace mileage
