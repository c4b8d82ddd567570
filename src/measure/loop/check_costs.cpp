#include "measure/loop/check_costs.h"

#include <algorithm>
#include <cmath>

#include "measure/loop/block_plan.h"
#include "measure/loop/check_plan.h"

namespace mileage {
namespace {

/// Exponents are estimated from counts at least this ratio apart, within these bounds; without any: quadratic.
constexpr double counts_tell_from = 2;
constexpr double min_power = 1;
constexpr double max_power = 3;
constexpr double unknown_power = 2;
/// Ratio of counts tried, frames of a run, and of a second one if cheap.
constexpr std::int64_t larger_look = 4;
constexpr int frames_of_a_look = 2;
constexpr int frames_of_a_longer_look = 64;
constexpr double min_frame_s = 1e-6;

double frame_s_at(const RoughCosts& costs, std::int64_t count) {
  const auto last = std::prev(costs.end());
  if (count <= last->first) return 1e-3 * rough_cost(costs, count);
  double power = unknown_power;
  for (const auto& [smaller, ms] : costs) {
    const double times = static_cast<double>(last->first) / static_cast<double>(smaller);
    if (times >= counts_tell_from)
      power = std::clamp(std::log(last->second / ms) / std::log(times), min_power, max_power);
  }
  return 1e-3 * last->second * std::pow(static_cast<double>(count) / static_cast<double>(last->first), power);
}

RoughCosts frames_of(const std::map<std::int64_t, RunCost>& run_costs) {
  RoughCosts costs;
  for (const auto& [count, cost] : run_costs) costs[count] = 1e3 * cost.frame_s;
  return costs;
}

RunCost carried_on(const RoughCosts& costs, const std::map<std::int64_t, RunCost>& run_costs, std::int64_t count) {
  RunCost cost = cost_near(costs, run_costs, count);
  cost.frame_s = frame_s_at(costs, count);
  return cost;
}

/// A short run gives start-up and frame costs; a second one only if cheap.
RunCost look(StudyState& state, const Series& reference, std::int64_t count, double foreseen_s, double max_s,
             Progress& progress) {
  const auto took_s = [&](int frames) {
    Order order{reference, {}, count, -1, RunStatus::check};
    order.check_frames = frames;
    order.predicted_s = foreseen_s;
    return state.recorder.make(order, progress).took_s;
  };
  const double few_s = took_s(frames_of_a_look);
  if (few_s * frames_of_a_longer_look / frames_of_a_look > max_s) return {0, 0, few_s / frames_of_a_look};
  const double more_s = took_s(frames_of_a_longer_look);
  return {few_s, 0, std::max(min_frame_s, (more_s - few_s) / (frames_of_a_longer_look - frames_of_a_look))};
}

}  // namespace

std::optional<RunCost> check_cost(const StudyState& state, const Series& of, std::int64_t count) {
  for (const ReferenceCosts& known : state.reference_costs)
    if (known.reference == of) return carried_on(frames_of(known.run_costs), known.run_costs, count);
  std::optional<RunCost> dearest;
  for (std::size_t series = 0; series < state.plan.series.size(); ++series) {
    if (!(state.plan.series[series].warm() == of) || state.costs[series].empty()) continue;
    const RunCost cost = carried_on(state.costs[series], state.run_costs[series], count);
    if (!dearest || dearest->frame_s < cost.frame_s) dearest = cost;
  }
  return dearest;
}

void check_reference(StudyState& state, const Series& reference, std::int64_t largest, double max_s,
                     Progress& progress) {
  ReferenceCosts told{reference, {}};
  double next_s = 0;
  for (std::int64_t count = std::min(largest, counts_checked(state.plan).front()); next_s <= max_s;
       count = std::min(largest, count * larger_look)) {
    if (state.is_stop_asked()) return;
    const RunCost cost = look(state, reference, count, next_s, max_s, progress);
    told.run_costs[count] = cost;
    if (count == largest) break;
    const RunCost next = cost.at(larger_look, cost.frame_s * std::pow(larger_look, unknown_power));
    next_s = next.beside_s + frames_of_a_look * next.frame_s;
  }
  state.reference_costs.push_back(told);
}

}  // namespace mileage
