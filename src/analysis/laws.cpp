#include "analysis/laws.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include <Eigen/Dense>

namespace mileage {
namespace {

constexpr double least_exponent = 0.02;
constexpr double most_exponent = 6.0;

/// A form of a law: which parts are present. Parameters stand in the order log fixed, log slope, exponent; a part
/// that is absent has none. x is divided by `unit`, its geometric mean, so that all parameters are of similar size.
struct Form {
  bool has_fixed = false;
  bool has_slope = false;
  bool free_exponent = false;
  double unit = 1;

  Eigen::Index parameters() const { return has_fixed + has_slope + free_exponent; }
  Eigen::Index slope_at() const { return has_fixed ? 1 : 0; }
  double exponent(const Eigen::VectorXd& p) const { return free_exponent ? p(parameters() - 1) : 1.0; }
};

/// Differences log(law) - log(points), and their derivatives by the parameters.
struct Linearised {
  Eigen::VectorXd differences;
  Eigen::MatrixXd slopes;
};

Linearised linearise(const Form& form, const Points& points, const Eigen::VectorXd& p) {
  const Eigen::ArrayXd log_x = (points.x / form.unit).log();
  const Eigen::ArrayXd zero = Eigen::ArrayXd::Zero(log_x.size());
  const Eigen::ArrayXd fixed = form.has_fixed ? zero + std::exp(p(0)) : zero;
  const Eigen::ArrayXd growing =
      form.has_slope ? Eigen::ArrayXd((p(form.slope_at()) + form.exponent(p) * log_x).exp()) : zero;
  const Eigen::ArrayXd cost = fixed + growing;
  const Eigen::ArrayXd root_weight = points.weight.sqrt();

  Linearised at{(root_weight * (cost.log() - points.log_ms)).matrix(), Eigen::MatrixXd(log_x.size(), p.size())};
  Eigen::Index column = 0;
  if (form.has_fixed) at.slopes.col(column++) = (root_weight * fixed / cost).matrix();
  if (form.has_slope) at.slopes.col(column++) = (root_weight * growing / cost).matrix();
  if (form.free_exponent) at.slopes.col(column++) = (root_weight * growing * log_x / cost).matrix();
  return at;
}

bool in_bounds(const Form& form, const Eigen::VectorXd& p) {
  const double exponent = form.exponent(p);
  return p.allFinite() && exponent >= least_exponent && exponent <= most_exponent;
}

/// Damped Gauss-Newton (Levenberg 1944, Marquardt 1963). Returns the misfit reached and leaves the parameters in `p`.
double descend(const Form& form, const Points& points, Eigen::VectorXd& p) {
  Linearised at = linearise(form, points, p);
  double misfit = at.differences.squaredNorm();
  double damping = 1e-3;
  for (int step = 0; step < 300 && damping < 1e12; ++step) {
    Eigen::MatrixXd normal = at.slopes.transpose() * at.slopes;
    normal.diagonal() += damping * (normal.diagonal().array() + 1e-12).matrix();
    const Eigen::VectorXd change = normal.ldlt().solve(-(at.slopes.transpose() * at.differences));
    const Eigen::VectorXd next = p + change;
    const Linearised there = in_bounds(form, next) ? linearise(form, points, next) : at;
    const double misfit_there = in_bounds(form, next) ? there.differences.squaredNorm() : misfit;
    if (!(misfit_there < misfit)) {
      damping *= 10;
      continue;
    }
    const bool settled = change.norm() < 1e-12;
    p = next;
    at = there;
    misfit = misfit_there;
    damping = std::max(damping / 10, 1e-15);
    if (settled) break;
  }
  return misfit;
}

std::vector<Eigen::VectorXd> starts(const Form& form, const Points& points) {
  const Eigen::Index last = points.x.size() - 1;
  const std::vector<double> exponents = form.free_exponent ? std::vector<double>{0.5, 1.0, 1.5, 2.5} : std::vector<double>{1.0};
  std::vector<Eigen::VectorXd> all;
  for (const double exponent : exponents) {
    std::vector<double> p;
    if (form.has_fixed) p.push_back(points.log_ms(0) - 0.7);
    if (form.has_slope) p.push_back(points.log_ms(last) - exponent * std::log(points.x(last) / form.unit));
    if (form.free_exponent) p.push_back(exponent);
    all.push_back(Eigen::Map<Eigen::VectorXd>(p.data(), static_cast<Eigen::Index>(p.size())));
  }
  return all;
}

LawFit fit_form(LawKind kind, const Form& form, const Points& points) {
  LawFit best{{}, HUGE_VAL};
  for (Eigen::VectorXd p : starts(form, points)) {
    const double misfit = descend(form, points, p);
    if (misfit >= best.misfit) continue;
    const double exponent = form.exponent(p);
    best.misfit = misfit;
    best.law.kind = kind;
    best.law.fixed_ms = form.has_fixed ? std::exp(p(0)) : 0;
    best.law.coefficient = form.has_slope ? std::exp(p(form.slope_at()) - exponent * std::log(form.unit)) : 0;
    best.law.exponent = form.has_slope ? exponent : 0;
  }
  return best;
}

std::vector<Form> forms_of(LawKind kind, double unit) {
  const bool power = kind == LawKind::power;
  if (kind == LawKind::constant) return {{true, false, false, unit}};
  return {{true, true, power, unit}, {false, true, power, unit}};
}

}  // namespace

double Law::log_ms_at(double x) const {
  const double growing = coefficient > 0 ? coefficient * std::pow(x, exponent) : 0;
  return std::log(fixed_ms + growing);
}

int free_coefficients(LawKind kind) {
  switch (kind) {
    case LawKind::constant: return 1;
    case LawKind::linear: return 2;
    case LawKind::power: return 3;
  }
  return 0;
}

std::optional<LawFit> fit_law(LawKind kind, const Points& points) {
  if (points.x.size() <= free_coefficients(kind)) return std::nullopt;
  const double unit = std::exp(points.x.log().mean());
  LawFit best{{}, HUGE_VAL};
  for (const Form& form : forms_of(kind, unit)) {
    const LawFit fit = fit_form(kind, form, points);
    // A coefficient that runs towards zero is zero: the shorter form is taken unless the longer one is really better.
    if (fit.misfit <= best.misfit * (1 + 1e-9)) best = fit;
  }
  return best;
}

}  // namespace mileage
