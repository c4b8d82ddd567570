#include "analysis/statistics/laws.h"

#include <algorithm>
#include <cmath>
#include <map>

#include <Eigen/Core>

#include "analysis/statistics/constants.h"
#include "analysis/statistics/least_squares.h"
#include "analysis/statistics/statistics.h"

namespace mileage {
namespace {

using Eigen::Index;

using Coefficients = SmallVector;
using Row = Eigen::Matrix<double, 1, Eigen::Dynamic, Eigen::RowMajor, 1, law_columns>;
using Shape = Eigen::Matrix<double, Eigen::Dynamic, 1, Eigen::ColMajor, 2, 1>;
using Parameters = SmallVector;

/// What a law adds up: one column per coefficient, fixed cost first, one row per place.
using Basis = Eigen::MatrixXd;

int knees_of(LawKind kind) { return kind == LawKind::two_knees ? 2 : kind == LawKind::one_knee ? 1 : 0; }

/// Number of parameters besides the coefficients: the exponent, or the places of the knees.
Index shape_parameters(LawKind kind) { return kind == LawKind::power ? 1 : knees_of(kind); }

Index columns_of(LawKind kind) { return free_coefficients(kind) - shape_parameters(kind); }

/// The part of x that lies in segment `segment` between the knees.
double segment_part(double x, const Shape& knees, Index segment) {
  const double from = segment == 0 ? 0 : knees(segment - 1);
  const double to = segment == knees.size() ? HUGE_VAL : knees(segment);
  return std::clamp(x, from, to) - from;
}

void fill_row(LawKind kind, const Shape& shape, double x, Row& row) {
  row(0) = 1;
  switch (kind) {
    case LawKind::constant:
      return;
    case LawKind::linear:
      row(1) = x;
      return;
    case LawKind::n_log_n:
      row(1) = x * std::log2(1 + x);
      return;
    case LawKind::quadratic:
      row(1) = x * x;
      return;
    case LawKind::linear_and_quadratic:
      row(1) = x;
      row(2) = x * x;
      return;
    case LawKind::power:
      row(1) = std::pow(x, shape(0));
      return;
    case LawKind::one_knee:
    case LawKind::two_knees:
      for (Index segment = 0; segment <= shape.size(); ++segment) row(1 + segment) = segment_part(x, shape, segment);
  }
}

/// Rows for all places, every column divided by its largest value, which is kept in `unit`.
Basis basis_of(LawKind kind, const Shape& shape, const Eigen::ArrayXd& x, Coefficients& unit) {
  Basis basis(x.size(), columns_of(kind));
  Row row(columns_of(kind));
  for (Index i = 0; i < x.size(); ++i) {
    fill_row(kind, shape, x(i), row);
    basis.row(i) = row;
  }
  unit = basis.colwise().maxCoeff().transpose().cwiseMax(1e-300);
  basis.array().rowwise() /= unit.transpose().array();
  return basis;
}

/// Least squares |matrix c - target| without negative c: the best of all subsets of columns whose solution has none. At
/// most four columns, so at most fifteen subsets.
Coefficients least_squares_without_negatives(const Basis& matrix, const Eigen::VectorXd& target) {
  const SmallSquare normal = matrix.transpose() * matrix;
  const Coefficients right = matrix.transpose() * target;
  const Coefficients all = solution_of(normal, right);
  if (all.allFinite() && (all.array() >= 0).all()) return all;  // the best of all, without any condition
  Coefficients best = Coefficients::Zero(matrix.cols());
  double best_gain = -1;
  for (unsigned subset = 1; subset < (1U << matrix.cols()); ++subset) {
    std::vector<Index> columns;
    for (Index column = 0; column < matrix.cols(); ++column)
      if ((subset >> column) & 1U) columns.push_back(column);
    const Coefficients some = solution_of(normal(columns, columns), right(columns));
    if (!some.allFinite() || (some.array() < 0).any()) continue;
    const double gain = some.dot(right(columns));  // what this subset takes off |target|^2
    if (gain <= best_gain * (1 + saves_nothing)) continue;
    best_gain = gain;
    best.setZero();
    best(columns) = some;
  }
  return best;
}

double squared_residuals_of(const Points& points, const Eigen::ArrayXd& cost) {
  if (!(cost > 0).all()) return HUGE_VAL;
  return (points.weight * (cost.log() - points.log_ms).square()).sum();
}

/// Coefficients (of the columns as they stand in the basis) for a given shape, and their squared residuals.
struct Solved {
  Coefficients coefficients;
  double squared_residuals = HUGE_VAL;
};

/// Gauss-Newton in the coefficients, from the weighted relative least squares on the costs themselves.
Solved solve(const Basis& basis, const Points& points, int max_steps) {
  const Eigen::ArrayXd root = points.weight.sqrt();
  const Eigen::ArrayXd cost = points.log_ms.exp();
  const Eigen::MatrixXd relative = (basis.array().colwise() * (root / cost)).matrix();
  Solved at{least_squares_without_negatives(relative, root.matrix()), HUGE_VAL};
  at.squared_residuals = squared_residuals_of(points, (basis * at.coefficients).array());
  for (int step = 0; step < max_steps; ++step) {
    const Eigen::ArrayXd fitted = (basis * at.coefficients).array();
    const Eigen::MatrixXd slopes = (basis.array().colwise() * (root / fitted)).matrix();
    const Eigen::VectorXd target = slopes * at.coefficients - (root * (fitted.log() - points.log_ms)).matrix();
    const Coefficients wanted = least_squares_without_negatives(slopes, target);
    Solved next;
    for (double share = 1; share > 1e-4; share /= 2) {
      next.coefficients = at.coefficients + share * (wanted - at.coefficients);
      next.squared_residuals = squared_residuals_of(points, (basis * next.coefficients).array());
      if (next.squared_residuals < at.squared_residuals) break;
    }
    if (!(next.squared_residuals < at.squared_residuals)) break;
    const bool settled = (next.coefficients - at.coefficients).norm() < 1e-12 * (1e-300 + at.coefficients.norm());
    at = next;
    if (settled) break;
  }
  return at;
}

/// A law while it is being fitted.
struct Candidate {
  Shape shape;
  Coefficients coefficients;  ///< Without units.
  double squared_residuals = HUGE_VAL;
};

Candidate candidate_at(LawKind kind, const Shape& shape, const Points& points) {
  Coefficients unit;
  const Basis basis = basis_of(kind, shape, points.x, unit);
  const Solved solved = solve(basis, points, shape.size() == 0 ? steps_to_the_end : steps_of_a_look);
  return {shape, solved.coefficients.cwiseQuotient(unit), solved.squared_residuals};
}

bool is_allowed(LawKind kind, const Shape& shape, const Points& points) {
  if (!shape.allFinite()) return false;
  if (kind == LawKind::power) return shape(0) >= min_exponent && shape(0) <= max_exponent;
  const Index last = points.x.size() - 1;
  for (Index knee = 0; knee < shape.size(); ++knee) {
    if (shape(knee) < points.x(1) || shape(knee) > points.x(last - 1)) return false;
    if (knee > 0 && (points.x > shape(knee - 1) && points.x < shape(knee)).count() < 2) return false;
  }
  return true;
}

std::vector<Shape> shapes_to_try(LawKind kind, const Points& points) {
  std::vector<Shape> shapes;
  if (shape_parameters(kind) == 0) return {Shape()};
  if (kind == LawKind::power) {
    for (int i = 0; i < exponents_looked_at; ++i)
      shapes.push_back(Shape::Constant(1, 0.05 * std::pow(max_exponent / 0.05, i / (exponents_looked_at - 1.0))));
    return shapes;
  }
  std::vector<double> places;
  const int looks = kind == LawKind::one_knee ? looks_for_one_knee : looks_for_two_knees;
  for (Index i = 1; i + 1 < points.x.size(); ++i)
    for (int look = 0; look < looks; ++look)
      places.push_back(points.x(i) * std::pow(points.x(i + 1) / points.x(i), look / static_cast<double>(looks)));
  for (const double first : places) {
    if (kind == LawKind::one_knee) shapes.push_back(Shape::Constant(1, first));
    if (kind == LawKind::two_knees)
      for (const double second : places) shapes.push_back(Eigen::Vector2d(first, second));
  }
  std::erase_if(shapes, [&](const Shape& shape) { return !is_allowed(kind, shape, points); });
  return shapes;
}

Eigen::ArrayXd costs_of(LawKind kind, const Candidate& candidate, const Eigen::ArrayXd& x) {
  Eigen::ArrayXd cost(x.size());
  Row row(columns_of(kind));
  for (Index i = 0; i < x.size(); ++i) {
    fill_row(kind, candidate.shape, x(i), row);
    cost(i) = row.dot(candidate.coefficients);
  }
  return cost;
}

/// Shape parameters and the logarithms of the coefficients that are present, as one vector.
struct Packed {
  std::vector<Index> present;
  Parameters values;
};

Packed pack(const Candidate& candidate) {
  Packed packed;
  for (Index i = 0; i < candidate.coefficients.size(); ++i)
    if (candidate.coefficients(i) > 0) packed.present.push_back(i);
  packed.values.resize(candidate.shape.size() + static_cast<Index>(packed.present.size()));
  packed.values.head(candidate.shape.size()) = candidate.shape;
  for (std::size_t i = 0; i < packed.present.size(); ++i)
    packed.values(candidate.shape.size() + static_cast<Index>(i)) = std::log(candidate.coefficients(packed.present[i]));
  return packed;
}

Candidate unpack(const Packed& packed, const Candidate& like) {
  Candidate candidate{packed.values.head(like.shape.size()), Coefficients::Zero(like.coefficients.size()), HUGE_VAL};
  for (std::size_t i = 0; i < packed.present.size(); ++i)
    candidate.coefficients(packed.present[i]) = std::exp(packed.values(like.shape.size() + static_cast<Index>(i)));
  return candidate;
}

/// Derivative of the costs by one shape parameter.
Eigen::ArrayXd slope_by_shape(LawKind kind, const Candidate& at, Index parameter, const Eigen::ArrayXd& x) {
  if (kind == LawKind::power) return at.coefficients(1) * x.pow(at.shape(0)) * x.log();
  // Above a knee, moving it by one unit exchanges one unit of the slope above for one of the slope below.
  const double change = at.coefficients(1 + parameter) - at.coefficients(2 + parameter);
  return (x > at.shape(parameter)).select(Eigen::ArrayXd::Constant(x.size(), change), 0.0);
}

Eigen::MatrixXd slopes_of(LawKind kind, const Packed& packed, const Candidate& at, const Points& points) {
  const Eigen::ArrayXd relative = points.weight.sqrt() / costs_of(kind, at, points.x);
  Eigen::MatrixXd slopes(points.x.size(), packed.values.size());
  for (Index parameter = 0; parameter < at.shape.size(); ++parameter)
    slopes.col(parameter) = (relative * slope_by_shape(kind, at, parameter, points.x)).matrix();
  Row row(columns_of(kind));
  for (Index i = 0; i < points.x.size(); ++i) {
    fill_row(kind, at.shape, points.x(i), row);
    for (std::size_t j = 0; j < packed.present.size(); ++j)
      slopes(i, at.shape.size() + static_cast<Index>(j)) =
          relative(i) * row(packed.present[j]) * at.coefficients(packed.present[j]);
  }
  return slopes;
}

/// Damped Gauss-Newton in shape and coefficients together.
void polish(LawKind kind, const Points& points, Candidate& best) {
  if (best.shape.size() == 0 || !std::isfinite(best.squared_residuals)) return;
  Packed packed = pack(best);
  double damping = 1e-3;
  for (int step = 0; step < 200 && damping < 1e10; ++step) {
    const Eigen::MatrixXd slopes = slopes_of(kind, packed, best, points);
    const Eigen::VectorXd differences =
        (points.weight.sqrt() * (costs_of(kind, best, points.x).log() - points.log_ms)).matrix();
    SmallSquare normal = slopes.transpose() * slopes;
    normal.diagonal().array() += damping * (normal.diagonal().array() + 1e-300);
    Packed next = packed;
    const Parameters change = solution_of(normal, -(slopes.transpose() * differences));
    next.values += change;
    Candidate there = unpack(next, best);
    if (is_allowed(kind, there.shape, points))
      there.squared_residuals = squared_residuals_of(points, costs_of(kind, there, points.x));
    if (!(there.squared_residuals < best.squared_residuals)) {
      damping *= 10;
      continue;
    }
    const bool settled = (change.array().abs() < 1e-12 * (1 + packed.values.array().abs())).all();
    packed = next;
    best = there;
    damping = std::max(damping / 10, 1e-15);
    if (settled) break;
  }
}

/// Which coefficients are above zero.
std::vector<bool> present_in(const Candidate& candidate) {
  std::vector<bool> present;
  for (const double coefficient : candidate.coefficients) present.push_back(coefficient > 0);
  return present;
}

Row row_of(const Law& law, double x) {
  Shape shape(shape_parameters(law.kind));
  if (law.kind == LawKind::power) shape(0) = law.exponent;
  for (std::size_t i = 0; i < law.knees.size(); ++i) shape(static_cast<Index>(i)) = law.knees[i];
  Row row(columns_of(law.kind));
  fill_row(law.kind, shape, x, row);
  return row;
}

Law law_of(LawKind kind, const Candidate& candidate) {
  Law law;
  law.kind = kind;
  law.fixed_ms = candidate.coefficients(0);
  for (Index i = 1; i < candidate.coefficients.size(); ++i) law.coefficients.push_back(candidate.coefficients(i));
  if (kind == LawKind::power) law.exponent = candidate.shape(0);
  for (int knee = 0; knee < knees_of(kind); ++knee) law.knees.push_back(candidate.shape(knee));
  return law;
}

Points leave_out(const Points& points, Index left_out) {
  const auto rest = [&](const Eigen::ArrayXd& all) {
    Eigen::ArrayXd some(all.size() - 1);
    some.head(left_out) = all.head(left_out);
    some.tail(all.size() - 1 - left_out) = all.tail(all.size() - 1 - left_out);
    return some;
  };
  return {rest(points.x), rest(points.log_ms), rest(points.weight)};
}

}  // namespace

double term_ms_at(const Law& law, std::size_t term, double x) {
  return law.coefficients[term] * row_of(law, x)(static_cast<Index>(term) + 1);
}

double log_ms_at(const Law& law, double x) {
  const Row row = row_of(law, x);
  double cost = law.fixed_ms;
  for (std::size_t i = 0; i < law.coefficients.size(); ++i)
    cost += law.coefficients[i] * row(static_cast<Index>(i) + 1);
  return std::log(cost);
}

double exponent_at(const Law& law, double x) {
  const double step = 1e-4;
  return (log_ms_at(law, x * (1 + step)) - log_ms_at(law, x * (1 - step))) / (std::log1p(step) - std::log1p(-step));
}

Points Points::at(const std::vector<Eigen::Index>& rows) const {
  return {x(rows), log_ms(rows), weight(rows),
          uncertainty.size() > 0 ? Eigen::MatrixXd(uncertainty(rows, rows)) : uncertainty};
}

double stray_weight(const Points& points) { return 0.25 * median({points.weight.begin(), points.weight.end()}); }

int free_coefficients(LawKind kind) {
  switch (kind) {
    case LawKind::constant:
      return 1;
    case LawKind::linear:
    case LawKind::n_log_n:
    case LawKind::quadratic:
      return 2;
    case LawKind::linear_and_quadratic:
    case LawKind::power:
      return 3;
    case LawKind::one_knee:
      return 4;
    case LawKind::two_knees:
      return 6;
  }
  return 0;
}

int tier_of(LawKind kind) {
  switch (kind) {
    case LawKind::constant:
      return 0;
    case LawKind::linear:
    case LawKind::n_log_n:
    case LawKind::quadratic:
      return 1;
    case LawKind::linear_and_quadratic:
    case LawKind::power:
      return 2;
    case LawKind::one_knee:
      return 3;
    case LawKind::two_knees:
      return 4;
  }
  return 0;
}

std::optional<LawFit> fit_law(LawKind kind, const Points& points) {
  if (points.x.size() <= free_coefficients(kind)) return std::nullopt;
  // Polishing never brings a missing coefficient back: the best of every set of present ones is polished.
  std::map<std::vector<bool>, Candidate> best_of_set;
  for (const Shape& shape : shapes_to_try(kind, points)) {
    const Candidate candidate = candidate_at(kind, shape, points);
    Candidate& best = best_of_set[present_in(candidate)];
    if (candidate.squared_residuals < best.squared_residuals) best = candidate;
  }
  Candidate best;
  for (auto& [set, candidate] : best_of_set) {
    polish(kind, points, candidate);
    if (candidate.squared_residuals < best.squared_residuals) best = candidate;
  }
  if (!std::isfinite(best.squared_residuals)) return std::nullopt;
  return LawFit{law_of(kind, best), best.squared_residuals};
}

std::optional<double> left_out_error(LawKind kind, const Points& points) {
  double squares = 0;
  for (Index i = 0; i < points.x.size(); ++i) {
    const auto fit = fit_law(kind, leave_out(points, i));
    if (!fit) return std::nullopt;
    const double error = log_ms_at(fit->law, points.x(i)) - points.log_ms(i);
    squares += error * error;
  }
  return std::sqrt(squares / static_cast<double>(points.x.size()));
}

}  // namespace mileage
