#include "analysis/curves/laws.h"

#include <algorithm>
#include <cmath>

#include <boost/math/tools/minima.hpp>

#include "analysis/model/priors.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/non_negative.h"

namespace mileage {
namespace {

using Eigen::ArrayXd;
using Eigen::Index;

const std::vector<std::vector<LawKind>> tiers{{LawKind::constant},
                                              {LawKind::linear, LawKind::n_log_n, LawKind::quadratic},
                                              {LawKind::linear_and_quadratic, LawKind::power},
                                              {LawKind::one_knee}};

bool has_shape(LawKind kind) { return kind == LawKind::power || kind == LawKind::one_knee; }

/// Factors of the coefficients at x; `shape`: exponent or knee.
std::vector<double> terms_at(LawKind kind, double shape, double x) {
  switch (kind) {
    case LawKind::constant:
      return {};
    case LawKind::linear:
      return {x};
    case LawKind::n_log_n:
      return {x * std::log2(1 + x)};
    case LawKind::quadratic:
      return {x * x};
    case LawKind::linear_and_quadratic:
      return {x, x * x};
    case LawKind::power:
      return {std::pow(x, shape)};
    case LawKind::one_knee:
      return {std::min(x, shape), std::max(0.0, x - shape)};
  }
  return {};
}

double shape_of(const Law& law) { return law.knees.empty() ? law.exponent : law.knees.front(); }

struct FitPoints {
  const std::vector<double>& x;
  const ArrayXd& log_ms;
  const ArrayXd& weight;
};

Law fit_shape(LawKind kind, double shape, const FitPoints& to) {
  const auto rows = static_cast<Index>(to.x.size());
  const auto columns = static_cast<Index>(terms_at(kind, shape, 1).size()) + 1;
  Eigen::MatrixXd terms(rows, columns);
  for (Index row = 0; row < rows; ++row) {
    const std::vector<double> of_place = terms_at(kind, shape, to.x[static_cast<std::size_t>(row)]);
    terms(row, 0) = 1;
    for (Index column = 1; column < columns; ++column)
      terms(row, column) = of_place[static_cast<std::size_t>(column) - 1];
  }
  const Eigen::ArrayXd root = to.weight.sqrt();
  terms.array().colwise() *= root / to.log_ms.exp();  // Relative residuals.
  const Eigen::RowVectorXd unit = terms.colwise().norm().cwiseMax(1e-300);
  terms.array().rowwise() /= unit.array();
  const Eigen::VectorXd found = non_negative_least_squares(terms, root.matrix()).cwiseQuotient(unit.transpose()).eval();
  Law law;
  law.kind = kind;
  law.fixed_ms = found(0);
  law.coefficients.assign(found.begin() + 1, found.end());
  if (kind == LawKind::power) law.exponent = shape;
  if (kind == LawKind::one_knee) law.knees = {shape};
  return law;
}

ArrayXd deviations(const Law& law, const FitPoints& from) {
  ArrayXd off(static_cast<Index>(from.x.size()));
  for (Index i = 0; i < off.size(); ++i) off(i) = log_ms_at(law, from.x[static_cast<std::size_t>(i)]) - from.log_ms(i);
  return off;
}

double squares(const Law& law, const FitPoints& from) { return (from.weight * deviations(law, from).square()).sum(); }

/// Log exponents or log knees to try.
std::vector<double> log_shapes(LawKind kind, const std::vector<double>& x) {
  const double from = kind == LawKind::power ? std::log(0.05) : std::log(x[1]);
  const double to = kind == LawKind::power ? std::log(6) : std::log(x[x.size() - 2]);
  std::vector<double> shapes;
  for (int i = 0; i <= shapes_looked_at; ++i) shapes.push_back(from + (to - from) * i / shapes_looked_at);
  return shapes;
}

std::size_t free_coefficients(LawKind kind) { return terms_at(kind, 1, 1).size() + 1 + (has_shape(kind) ? 1 : 0); }

/// Curve without its steps.
struct Known {
  ArrayXd log_ms;
  ArrayXd sd;       ///< Of the shape at each place.
  double band = 0;  ///< Multiple of sd that 95 % of draws stay within at all places.
};

Known known_of(const SeriesCurve& curve) {
  const auto size = static_cast<Index>(curve.places().size());
  Known known{ArrayXd(size), ArrayXd(size)};
  Eigen::ArrayXXd apart(curve.draws(), size);
  for (Index i = 0; i < size; ++i) {
    const double x = curve.places()[static_cast<std::size_t>(i)];
    known.log_ms(i) = curve.log_ms_at(x);
    apart.col(i) = curve.drawn_log_ms(x) - known.log_ms(i);
    for (const Step& step : curve.steps)
      if (x <= step.before) known.log_ms(i) += middle_of(curve.drawn_log_rise(step));
  }
  apart.colwise() -= apart.rowwise().mean().eval();
  known.sd = apart.square().colwise().mean().sqrt().transpose().max(1e-9);
  apart.rowwise() /= known.sd.transpose();
  known.band = *interval_of(apart.abs().rowwise().maxCoeff()).high;
  return known;
}

template <class Fits>
Interval fitting_knees(double best, const FitPoints& places, const Fits& fits) {
  Interval knees{best, best};
  for (const double log_shape : log_shapes(LawKind::one_knee, places.x)) {
    if (!fits(fit_shape(LawKind::one_knee, std::exp(log_shape), places))) continue;
    knees.low = std::min(*knees.low, std::exp(log_shape));
    knees.high = std::max(*knees.high, std::exp(log_shape));
  }
  return knees;
}

LawNames names_within(const ArrayXd& within, const std::vector<double>& x, const ArrayXd& log_ms) {
  LawNames names;
  const ArrayXd weight = within.square().inverse();
  const FitPoints points{x, log_ms, weight};
  const auto fits = [&](const Law& law) { return (deviations(law, points).abs() <= within).all(); };
  for (const std::vector<LawKind>& tier : tiers) {
    std::vector<LawTest> fitting;
    for (const LawKind kind : tier) {
      const auto law = fit_law(kind, x, log_ms, weight);
      if (!law) continue;
      names.tests.push_back({*law, deviations(*law, points).abs().maxCoeff(), fits(*law)});
      if (names.tests.back().fits) fitting.push_back(names.tests.back());
    }
    if (fitting.empty()) continue;
    std::sort(fitting.begin(), fitting.end(),
              [](const LawTest& a, const LawTest& b) { return a.deviation < b.deviation; });
    for (const LawTest& one : fitting) names.laws.push_back(one.law);
    names.largest_deviation = fitting.front().deviation;
    if (const Law& law = names.laws.front(); !law.knees.empty())
      names.knee = fitting_knees(law.knees.front(), points, fits);
    return names;
  }
  return names;
}

}  // namespace

double log_ms_at(const Law& law, double x) {
  const std::vector<double> terms = terms_at(law.kind, shape_of(law), x);
  double ms = law.fixed_ms;
  for (std::size_t i = 0; i < terms.size(); ++i) ms += law.coefficients[i] * terms[i];
  return std::log(ms);
}

double term_ms_at(const Law& law, std::size_t term, double x) {
  return law.coefficients[term] * terms_at(law.kind, shape_of(law), x)[term];
}

std::optional<Law> fit_law(LawKind kind, const std::vector<double>& x, const ArrayXd& log_ms, const ArrayXd& weight) {
  if (x.size() <= free_coefficients(kind)) return std::nullopt;
  const FitPoints to{x, log_ms, weight};
  if (!has_shape(kind)) return fit_shape(kind, 0, to);
  const auto of_log_shape = [&](double log_shape) { return squares(fit_shape(kind, std::exp(log_shape), to), to); };
  const std::vector<double> looks = log_shapes(kind, x);
  std::size_t best = 0;
  for (std::size_t i = 1; i < looks.size(); ++i)
    if (of_log_shape(looks[i]) < of_log_shape(looks[best])) best = i;
  const double from = looks[best == 0 ? 0 : best - 1], end = looks[std::min(best + 1, looks.size() - 1)];
  const auto [log_shape, least] = boost::math::tools::brent_find_minima(of_log_shape, from, end, 30);
  return fit_shape(kind, std::exp(log_shape), to);
}

LawNames name_laws(const SeriesCurve& curve) {
  LawNames names;
  if (curve.places().size() < prior::places_to_extrapolate) return {NotNamed::too_few_places};
  const Known known = known_of(curve);
  if ((known.band * known.sd > prior::law_deviations[1]).any()) return {NotNamed::too_uncertain};
  for (const double law_deviation : prior::law_deviations) {
    names = names_within((known.band * known.sd).max(law_deviation), curve.places(), known.log_ms);
    if (!names.laws.empty()) return names;
  }
  names.why = NotNamed::like_none;
  return names;
}

}  // namespace mileage
