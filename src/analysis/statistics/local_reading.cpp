#include "analysis/statistics/local_reading.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include <Eigen/Core>

#include "analysis/statistics/constants.h"
#include "analysis/statistics/least_squares.h"
#include "analysis/statistics/statistics.h"

namespace mileage {
namespace {

std::optional<Window> window_of(std::vector<double> nearest, double x, std::size_t how_many, double within) {
  if (nearest.size() < how_many) return std::nullopt;
  nearest.resize(how_many);
  const auto [min, max] = std::minmax_element(nearest.begin(), nearest.end());
  if (*min > x || *max < x || *max / x > within || x / *min > within) return std::nullopt;
  return Window{*min, *max};
}

double times_apart(double a, double b) { return std::max(a / b, b / a); }

/// Points that no stray run or two made: leaving blocks out would not show how uncertain those are.
std::vector<Eigen::Index> measured_often(const Points& points) {
  const double stray = stray_weight(points);
  std::vector<Eigen::Index> rows;
  for (Eigen::Index i = 0; i < points.x.size(); ++i)
    if (points.weight(i) >= stray) rows.push_back(i);
  return rows;
}

std::vector<double> well_measured(const Points& points, double x) {
  const std::vector<Eigen::Index> rows = measured_often(points);
  double max = 0;
  for (const Eigen::Index i : rows)
    if (times_apart(points.x(i), x) <= many_within) max = std::max(max, points.weight(i));
  std::vector<double> all, places;
  for (const Eigen::Index i : rows) {
    all.push_back(points.x(i));
    if (times_apart(points.x(i), x) <= many_within && points.weight(i) >= max * few_runs_share)
      places.push_back(points.x(i));
  }
  return places.size() >= few_points ? places : all;
}

/// The nearest to x first; of those that stand side by side one: between them there is no slope to be seen.
std::vector<double> apart(std::vector<double> places, double x) {
  std::sort(places.begin(), places.end(), [&](double a, double b) { return times_apart(a, x) < times_apart(b, x); });
  std::vector<double> chosen;
  for (const double place : places)
    if (std::all_of(chosen.begin(), chosen.end(),
                    [&](double other) { return times_apart(place, other) >= side_by_side; }))
      chosen.push_back(place);
  return chosen;
}

}  // namespace

std::optional<Window> window_around(const Points& points, double x) {
  const std::vector<double> nearest = apart(well_measured(points, x), x);
  if (const auto window = window_of(nearest, x, many_points, many_within)) return window;
  return window_of(nearest, x, few_points, few_within);
}

std::optional<Window> wide_window_around(const Points& points, double x, double within) {
  std::vector<double> inside;
  for (const double place : points.x)
    if (times_apart(place, x) <= within) inside.push_back(place);
  if (inside.size() < many_points || inside.front() > x || inside.back() < x) return std::nullopt;
  return Window{inside.front(), inside.back()};
}

Interval reach_of(const Window& window) { return {window.min / outside_window_by, window.max * outside_window_by}; }

namespace {

/// A parabola in log-log (a straight line through two points) as weighted equations.
struct Equations {
  Eigen::MatrixXd matrix;
  Eigen::VectorXd values;
};

Equations equations_of(const Points& points, double middle) {
  const Eigen::Index size = points.x.size();
  Equations equations{Eigen::MatrixXd(size, std::min<Eigen::Index>(3, size)), points.weight.sqrt() * points.log_ms};
  for (Eigen::Index row = 0; row < size; ++row) {
    const double place = std::log(points.x(row) / middle);
    for (Eigen::Index column = 0; column < equations.matrix.cols(); ++column)
      equations.matrix(row, column) = std::sqrt(points.weight(row)) * std::pow(place, static_cast<double>(column));
  }
  return equations;
}

Points inside_of(const Window& window, const Points& points, double min_weight) {
  std::vector<Eigen::Index> rows;
  for (Eigen::Index i = 0; i < points.x.size(); ++i)
    if (points.x(i) >= window.min && points.x(i) <= window.max && points.weight(i) >= min_weight) rows.push_back(i);
  return points.at(rows);
}

}  // namespace

std::optional<LocalFit> LocalFit::through(const Points& points, const Window& window, const Noise& noise) {
  LocalFit fit;
  fit.window_ = window;
  fit.middle_ = std::sqrt(window.min * window.max);
  fit.noise_ = noise;
  fit.read_scatter(points);
  const auto [matrix, values] = equations_of(inside_of(window, points, 0), fit.middle_);
  const Eigen::Index columns = matrix.cols();
  if (columns < 2) return std::nullopt;
  Eigen::MatrixXd with_prior = Eigen::MatrixXd::Zero(matrix.rows() + 1, columns);
  with_prior.topRows(matrix.rows()) = matrix;
  if (columns == 3 && noise.degrees_of_freedom > 0)
    with_prior(matrix.rows(), 2) = std::sqrt(noise.variance) / local_bend_sd;
  Eigen::VectorXd with_zero = Eigen::VectorXd::Zero(matrix.rows() + 1);
  with_zero.head(matrix.rows()) = values;
  const Eigen::VectorXd solved = LeastSquares(with_prior)(with_zero);
  std::copy(solved.begin(), solved.end(), fit.coefficients_);
  const SmallSquare normal = with_prior.transpose() * with_prior;
  for (Eigen::Index row = 0; row < columns; ++row) {
    const SmallVector inverse = solution_of(normal, SmallVector::Unit(columns, row));
    std::copy(inverse.begin(), inverse.end(), fit.inverse_[row]);
  }
  return fit;
}

/// One stray run tells nothing of its count: it may be a spike.
void LocalFit::read_scatter(const Points& points) {
  const Points often = inside_of(window_, points, stray_weight(points));
  const auto [matrix, values] = equations_of(often, middle_);
  degrees_of_freedom_ = static_cast<int>(matrix.rows() - matrix.cols());
  if (degrees_of_freedom_ < 1) return;
  const LeastSquares fitted(matrix);
  const auto left = [&, &rows = matrix](const Eigen::VectorXd& of) { return Eigen::VectorXd(of - rows * fitted(of)); };
  squared_residuals_ = left(values).squaredNorm();
  const Eigen::MatrixXd roots = often.weight.sqrt().matrix().asDiagonal();
  const auto each_of = [&](const Eigen::MatrixXd& covariance) {
    const Eigen::MatrixXd weighted = roots * covariance * roots;
    double sum = 0;
    for (Eigen::Index row = 0; row < weighted.rows(); ++row) sum += left(weighted.col(row))(row);
    return sum / degrees_of_freedom_;
  };
  expected_ = std::max(noise_.variance, min_sd * min_sd);
  if (often.uncertainty.size() > 0) expected_ += each_of(often.uncertainty);
  const auto size = often.x.size();
  with_deviations_ = expected_ + each_of(law_deviation_sd * law_deviation_sd * Eigen::MatrixXd::Identity(size, size));
}

double LocalFit::value_at(double x) const {
  const double place = std::log(x / middle_);
  return coefficients_[0] + place * (coefficients_[1] + place * coefficients_[2]);
}

double LocalFit::slope_at(double x) const { return coefficients_[1] + 2 * coefficients_[2] * std::log(x / middle_); }

double LocalFit::leverage_at(double x) const {
  const double place = std::log(x / middle_);
  const double row[3] = {1, place, place * place};
  double leverage = 0;
  for (int i = 0; i < 3; ++i)
    for (int j = 0; j < 3; ++j) leverage += row[i] * inverse_[i][j] * row[j];
  return leverage;
}

double LocalFit::error_at(double x) const { return std::sqrt(noise_.variance * leverage_at(x)); }

double LocalFit::scatter_at(double x) const {
  if (degrees_of_freedom_ < 1 || noise_.degrees_of_freedom < 1 || noise_.variance <= 0) return 0;
  const double scatter = squared_residuals_ / degrees_of_freedom_;  // of one run, if it were noise
  if (f_p_value(scatter / expected_, degrees_of_freedom_, noise_.degrees_of_freedom) >= scatters_below) return 0;
  const int degrees = degrees_of_freedom_ + degrees_of_law_deviation;
  const double moderated = (squared_residuals_ + degrees_of_law_deviation * with_deviations_) / degrees;
  return t_quantile(0.975, degrees) * std::sqrt(moderated * leverage_at(x));
}

std::optional<double> LocalFit::crossing(double slowdown, bool upward) const {
  const double reach = std::log(window_.max / middle_ * outside_window_by);
  const double a = coefficients_[2];
  const double b = coefficients_[1];
  const double c = coefficients_[0] - slowdown;
  std::vector<double> roots;
  if (std::fabs(a) < 1e-12) {
    if (b != 0) roots.push_back(-c / b);
  } else if (const double inside = b * b - 4 * a * c; inside >= 0) {
    const double q = -0.5 * (b + std::copysign(std::sqrt(inside), b));
    roots = {q / a, q != 0 ? c / q : HUGE_VAL};
  }
  std::optional<double> nearest;
  for (const double root : roots) {
    if (!std::isfinite(root) || std::fabs(root) > reach || (b + 2 * a * root > 0) != upward) continue;
    if (!nearest || std::fabs(root) < std::fabs(*nearest)) nearest = root;
  }
  return nearest ? std::optional(middle_ * std::exp(*nearest)) : std::nullopt;
}

}  // namespace mileage
