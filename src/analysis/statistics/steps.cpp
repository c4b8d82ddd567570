#include "analysis/statistics/steps.h"

#include <algorithm>
#include <cmath>

#include "analysis/statistics/constants.h"
#include "analysis/statistics/statistics.h"

namespace mileage {
namespace {

/// A gap between two points, with the neighbouring gaps.
struct Gap {
  const Points& points;
  Eigen::Index left, before, after, right;

  double width(Eigen::Index from, Eigen::Index to) const { return std::log(points.x(to) / points.x(from)); }
  double rise(Eigen::Index from, Eigen::Index to) const { return points.log_ms(to) - points.log_ms(from); }
  double rise() const { return rise(before, after); }
  /// What a neighbouring gap would rise over this one's width, log-log.
  double as_steep_as(Eigen::Index from, Eigen::Index to) const {
    return rise(from, to) / width(from, to) * width(before, after);
  }
  /// What it would rise in proportion: milliseconds for each unit of the axis.
  double in_proportion_to(Eigen::Index from, Eigen::Index to) const {
    const double ms_each =
        (std::exp(points.log_ms(to)) - std::exp(points.log_ms(from))) / (points.x(to) - points.x(from));
    const double ms = ms_each * (points.x(after) - points.x(before)) / std::exp(points.log_ms(before));
    return std::log1p(std::max(ms, -0.9));
  }
  /// 95 % limit of the rise less that of a neighbouring gap as wide, by noise and by what is uncertain of the points.
  double limit_beside(Eigen::Index from, Eigen::Index to, const Noise& noise) const {
    const double times = width(before, after) / width(from, to);
    Eigen::VectorXd parts = Eigen::VectorXd::Zero(points.x.size());
    parts(after) += 1;
    parts(before) -= 1;
    parts(to) -= times;
    parts(from) += times;
    const double by_noise = t_quantile(0.975, noise.degrees_of_freedom) *
                            std::sqrt(noise.variance * (parts.array().square() / points.weight).sum());
    const double by_uncertainty =
        points.uncertainty.size() > 0 ? std::sqrt(std::max(0.0, parts.dot(points.uncertainty * parts))) : 0;
    return std::hypot(by_noise, normal_95 * by_uncertainty);
  }
};

/// Whether a gap rises by more than both of its neighbours let expect.
bool jumps_up(const Gap& gap, const Noise& noise) {
  const auto beyond = [&](Eigen::Index from, Eigen::Index to) {
    const double expected = std::max({0.0, gap.as_steep_as(from, to), gap.in_proportion_to(from, to)});
    const double limit = step_beyond_noise * gap.limit_beside(from, to, noise);
    return gap.rise() - expected > std::max(std::log(step_beyond_neighbours), limit);
  };
  return beyond(gap.left, gap.before) && beyond(gap.after, gap.right);
}

/// The same downwards: costs fall by so much nowhere else.
bool jumps_down(const Gap& gap, const Noise& noise) {
  const auto beyond = [&](Eigen::Index from, Eigen::Index to) {
    const double expected = std::min(0.0, gap.as_steep_as(from, to));
    const double limit = step_beyond_noise * gap.limit_beside(from, to, noise);
    return expected - gap.rise() > std::max(std::log(step_beyond_neighbours), limit);
  };
  return beyond(gap.left, gap.before) && beyond(gap.after, gap.right);
}

/// With neighbours at least half as far away as the gap is wide, where there are any: closer ones tell little but
/// noise of how steep the cost is.
Gap gap_between(const Points& points, Eigen::Index before, Eigen::Index after) {
  Gap gap{points, before - 1, before, after, after + 1};
  const double enough = gap.width(before, after) / 2;
  while (gap.left > 0 && gap.width(gap.left, before) < enough) --gap.left;
  while (gap.right + 1 < points.x.size() && gap.width(after, gap.right) < enough) ++gap.right;
  return gap;
}

/// A spike of a run or two would be taken for a step.
Points often_measured(const Points& points) {
  const double enough = points.weight.maxCoeff() * often_measured_share;
  std::vector<Eigen::Index> kept;
  for (Eigen::Index i = 0; i < points.x.size(); ++i)
    if (points.weight(i) >= enough) kept.push_back(i);
  return points.at(kept);
}

/// Beside the mean of what both neighbours rise.
double jump_of(const Gap& gap) {
  return gap.rise() - (gap.as_steep_as(gap.left, gap.before) + gap.as_steep_as(gap.after, gap.right)) / 2;
}

}  // namespace

std::vector<Step> find_steps(const Points& all, const Noise& noise) {
  std::vector<Step> steps;
  if (noise.degrees_of_freedom < 1 || all.x.size() < min_places_around_a_step) return steps;
  const Points points = often_measured(all);
  for (Eigen::Index i = 1; i + 2 < points.x.size(); ++i) {
    if (points.x(i + 1) > widest_step * points.x(i)) continue;
    const Gap gap = gap_between(points, i, i + 1);
    if (jumps_up(gap, noise) || jumps_down(gap, noise)) steps.push_back({points.x(i), points.x(i + 1), jump_of(gap)});
  }
  return steps;
}

std::vector<Step> steps_seen_by(const Points& points, const std::vector<Step>& gaps) {
  std::vector<Step> steps;
  for (const Step& step : gaps) {
    const auto after = std::find(points.x.begin(), points.x.end(), step.after) - points.x.begin();
    const auto before = std::find(points.x.begin(), points.x.end(), step.before) - points.x.begin();
    const bool are_there = before < after && after < points.x.size();
    if (!are_there || before < 1 || after + 1 >= points.x.size()) continue;
    steps.push_back({step.before, step.after, jump_of(gap_between(points, before, after))});
  }
  return steps;
}

Points without_steps(const Points& points, const std::vector<Step>& steps) {
  Points lifted = points;
  for (const Step& step : steps)
    for (Eigen::Index i = 0; i < lifted.x.size(); ++i)
      if (lifted.x(i) <= step.before) lifted.log_ms(i) += step.log_jump;
  return lifted;
}

Points on_the_side_of(double x, const Points& points, const std::vector<Step>& steps) {
  std::vector<Eigen::Index> same;
  for (Eigen::Index i = 0; i < points.x.size(); ++i)
    if (!is_step_between(points.x(i), x, steps)) same.push_back(i);
  return points.at(same);
}

const Step* step_at(double x, const std::vector<Step>& steps) {
  const auto found = std::find_if(steps.begin(), steps.end(), [&](const Step& step) { return step.holds(x); });
  return found == steps.end() ? nullptr : &*found;
}

bool is_step_between(double from, double to, const std::vector<Step>& steps) {
  const auto [low, high] = std::minmax(from, to);
  return std::any_of(steps.begin(), steps.end(),
                     [&, low = low, high = high](const Step& step) { return low < step.after && high > step.before; });
}

}  // namespace mileage
