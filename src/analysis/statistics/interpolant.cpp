#include "analysis/statistics/interpolant.h"

#include <algorithm>
#include <cmath>

#include "analysis/statistics/constants.h"

namespace mileage {
namespace {

/// With which factors the values of this many points from `first` on make the polynomial through them at x (Lagrange's
/// form).
Eigen::ArrayXd factors(const Points& points, Eigen::Index first, Eigen::Index size, double x) {
  Eigen::ArrayXd all = Eigen::ArrayXd::Zero(points.x.size());
  for (Eigen::Index i = first; i < first + size; ++i) {
    all(i) = 1;
    for (Eigen::Index j = first; j < first + size; ++j)
      if (j != i) all(i) *= std::log(x / points.x(j)) / std::log(points.x(i) / points.x(j));
  }
  return all;
}

/// Weighted means of points that stand close together, with no step between them.
Points grouped(const Points& points, const std::vector<Step>& steps) {
  Points groups = points;
  Eigen::Index size = 0;
  for (Eigen::Index first = 0, end = 0; first < points.x.size(); first = end, ++size) {
    end = first + 1;
    while (end < points.x.size() && points.x(end) <= points.x(first) * close_together &&
           !is_step_between(points.x(first), points.x(end), steps))
      ++end;
    const auto of = Eigen::seq(first, end - 1);
    const Eigen::ArrayXd weight = points.weight(of);
    groups.weight(size) = weight.sum();
    groups.x(size) = std::exp((weight * points.x(of).log()).sum() / weight.sum());
    groups.log_ms(size) = (weight * points.log_ms(of)).sum() / weight.sum();
  }
  return {groups.x.head(size), groups.log_ms.head(size), groups.weight.head(size)};
}

/// A light group stays where it is all there is in a wide gap, or beyond the others.
Points without_light_ones(const Points& groups) {
  const Eigen::Index size = groups.x.size();
  const auto is_heavy = [&, stray = stray_weight(groups)](Eigen::Index i) { return groups.weight(i) >= stray; };
  std::vector<Eigen::Index> kept;
  for (Eigen::Index i = 0; i < size; ++i) {
    Eigen::Index left = i, right = i;
    while (left >= 0 && !is_heavy(left)) --left;
    while (right < size && !is_heavy(right)) ++right;
    if (left < 0 || right == size || left == right || groups.x(right) > groups.x(left) * wide_gap) kept.push_back(i);
  }
  return {groups.x(kept), groups.log_ms(kept), groups.weight(kept)};
}

}  // namespace

double Bend::half_width() const {
  // The parabola and the other interpolant have the same bend.
  const double bend = std::max(std::fabs(parabola), std::fabs(other));
  const double by_noise = (of_two ? bend_of_two_beyond : 1) * variance;
  return std::hypot(std::sqrt(std::max(0.0, bend * bend - by_noise)), step);
}

Bend Bend::less(const Bend& subtracted, double share) const {
  return {parabola - share * subtracted.parabola, variance + share * share * subtracted.variance,
          other - share * subtracted.other, std::hypot(step, share * subtracted.step), true};
}

Interpolant::Interpolant(const Points& points, const std::optional<Law>& shape, const std::vector<Step>& steps)
    : shape_(shape) {
  Points above = points;
  for (Eigen::Index i = 0; i < above.x.size(); ++i) above.log_ms(i) -= shape_at(above.x(i));
  groups_ = without_light_ones(grouped(above, steps));
}

bool Interpolant::is_inside(double x) const { return x >= groups_.x(0) && x <= groups_.x(groups_.x.size() - 1); }

/// Such that there is a group to the right of it.
Eigen::Index Interpolant::left_of(double x) const {
  const auto above = std::upper_bound(groups_.x.begin(), groups_.x.end(), x) - groups_.x.begin();
  return std::clamp<Eigen::Index>(above - 1, 0, groups_.x.size() - 2);
}

double Interpolant::log_ms_at(double x) const {
  if (groups_.x.size() == 1) return shape_at(x) + groups_.log_ms(0);
  const double inside = std::clamp(x, groups_.x(0), groups_.x(groups_.x.size() - 1));
  return shape_at(shape_ ? x : inside) + (factors(groups_, left_of(inside), 2, inside) * groups_.log_ms).sum();
}

/// Through the two groups around x and the nearer of their neighbours.
Eigen::ArrayXd Interpolant::parabola(double x) const {
  const Eigen::Index left = left_of(x);
  const bool towards_left = x * x < groups_.x(left) * groups_.x(left + 1);
  return factors(groups_, std::clamp<Eigen::Index>(towards_left ? left - 1 : left, 0, groups_.x.size() - 3), 3, x);
}

std::optional<double> Interpolant::curved_log_ms_at(double x) const {
  if (groups_.x.size() < 3 || !is_inside(x)) return std::nullopt;
  return shape_at(x) + (parabola(x) * groups_.log_ms).sum();
}

Bend Interpolant::bend_at(double x, double variance) const {
  if (groups_.x.size() < 3 || !is_inside(x)) return {};
  const Eigen::ArrayXd apart = parabola(x) - factors(groups_, left_of(x), 2, x);
  return {(apart * groups_.log_ms).sum(), variance * (apart.square() / groups_.weight).sum()};
}

double Interpolant::variance_at(double x) const {
  if (groups_.x.size() == 1) return 1 / groups_.weight(0);
  const double inside = std::clamp(x, groups_.x(0), groups_.x(groups_.x.size() - 1));
  return (factors(groups_, left_of(inside), 2, inside).square() / groups_.weight).sum();
}

bool Interpolant::has_knee_around(double x) const {
  if (!shape_ || groups_.x.size() < 2 || !is_inside(x)) return false;
  const Eigen::Index left = left_of(x);
  return std::any_of(shape_->knees.begin(), shape_->knees.end(),
                     [&](double knee) { return knee > groups_.x(left) && knee < groups_.x(left + 1); });
}

}  // namespace mileage
