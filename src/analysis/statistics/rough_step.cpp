#include "analysis/statistics/rough_step.h"

#include <cmath>

#include "analysis/statistics/constants.h"
#include "analysis/statistics/steps.h"

namespace mileage {
namespace {

Points points_from(const std::map<std::int64_t, RoughPoint>& rough) {
  const auto size = static_cast<Eigen::Index>(rough.size());
  Points points{Eigen::ArrayXd(size), Eigen::ArrayXd(size), Eigen::ArrayXd(size)};
  Eigen::Index i = 0;
  for (const auto& [count, point] : rough) {
    points.x(i) = static_cast<double>(count);
    points.log_ms(i) = std::log(point.value);
    points.weight(i++) = point.visits;
  }
  return points;
}

}  // namespace

std::optional<Interval> step_through(double level, const std::map<std::int64_t, RoughPoint>& rough) {
  const Points points = points_from(rough);
  const double log_level = std::log(level);
  const Noise noise{assumed_visit_deviation * assumed_visit_deviation, degrees_of_known_noise};
  for (const Step& step : find_steps(points, noise)) {
    const double before = rough.at(static_cast<std::int64_t>(step.before)).value;
    const double after = rough.at(static_cast<std::int64_t>(step.after)).value;
    if ((std::log(before) > log_level) != (std::log(after) > log_level)) return Interval{step.before, step.after};
  }
  return std::nullopt;
}

}  // namespace mileage
