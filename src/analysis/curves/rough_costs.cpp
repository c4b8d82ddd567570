#include "analysis/curves/rough_costs.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include "analysis/evidence/judged_run.h"
#include "analysis/model/joint_fit.h"
#include "analysis/model/priors.h"

namespace mileage {
namespace {

double log_slowness(const DisturbanceFilter& judge, const Run& run) {
  return std::log(judge.slowness(run).value_or(1));
}

}  // namespace

double rough_fast_ms(const DisturbanceFilter& judge, const Run& run) {
  return typical_frame_ms(run) * std::exp(-expected_response(log_slowness(judge, run)));
}

double rough_fast_sd(const DisturbanceFilter& judge, const Run& run) {
  const double slowdown = log_slowness(judge, run);
  return std::hypot(
      std::hypot(prior::response_sd, prior::response_of_variant_sd) * std::min(slowdown, prior::response_knee),
      prior::far_response_sd * beyond_knee(slowdown));
}

std::optional<Interval> step_through(double level, const std::map<std::int64_t, RoughPoint>& points, double exponent) {
  std::vector<ModelRow> rows;
  for (const auto& [count, point] : points) {
    if (point.runs < 2) continue;
    ModelRow row;
    row.log_x = std::log(static_cast<double>(count));
    row.log_ms = std::log(point.value) + (prior::slope_mean - exponent) * row.log_x;
    row.order = static_cast<double>(rows.size());
    rows.push_back(row);
  }
  if (rows.size() < 4) return std::nullopt;  // Two on each side of a step.
  const JointFit fit(rows);
  for (std::size_t i = 1; i < rows.size(); ++i) {
    const auto is_above = [&](std::size_t one) {
      return points.at(std::llround(std::exp(rows[one].log_x))).value > level;
    };
    const double middle = (rows[i - 1].log_x + rows[i].log_x) / 2 - fit.inputs().middle;
    const bool jumps = std::any_of(fit.steps().begin(), fit.steps().end(),
                                   [&](const ModelStep& step) { return step.from < middle && middle < step.to; });
    if (jumps && is_above(i - 1) != is_above(i)) return Interval{std::exp(rows[i - 1].log_x), std::exp(rows[i].log_x)};
  }
  return std::nullopt;
}

}  // namespace mileage
