#include "analysis/statistics/rough_step.h"

#include <cmath>
#include <vector>

#include "analysis/statistics/constants.h"
#include "analysis/statistics/steps.h"

namespace mileage {
namespace {

Points points_from(const std::map<std::int64_t, RoughPoint>& rough) {
  std::vector<double> x, log_value, weight;
  for (const auto& [count, point] : rough) {
    if (point.runs < min_runs_for_steps) continue;
    x.push_back(static_cast<double>(count));
    log_value.push_back(std::log(point.value));
    weight.push_back(point.runs);
  }
  const auto array = [](const std::vector<double>& values) {
    return Eigen::ArrayXd(Eigen::Map<const Eigen::ArrayXd>(values.data(), static_cast<Eigen::Index>(values.size())));
  };
  return {array(x), array(log_value), array(weight)};
}

}  // namespace

std::optional<Interval> step_through(double slowdown, const std::map<std::int64_t, RoughPoint>& rough) {
  const Points points = points_from(rough);
  const double log_slowdown = std::log(slowdown);
  const Noise noise{assumed_run_sd * assumed_run_sd, degrees_of_known_noise};
  for (const Step& step : find_steps(points, noise)) {
    const double before = rough.at(static_cast<std::int64_t>(step.before)).value;
    const double after = rough.at(static_cast<std::int64_t>(step.after)).value;
    if ((std::log(before) > log_slowdown) != (std::log(after) > log_slowdown)) return Interval{step.before, step.after};
  }
  return std::nullopt;
}

}  // namespace mileage
