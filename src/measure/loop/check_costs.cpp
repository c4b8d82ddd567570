#include "measure/loop/check_costs.h"

#include <algorithm>

#include "measure/loop/check_plan.h"

namespace mileage {
namespace {

/// Ratio of counts tried, frames of a run, and of a second one if cheap.
constexpr std::int64_t larger_look = 4;
constexpr int frames_of_a_look = 2;
constexpr int frames_of_a_longer_look = 64;
constexpr double min_frame_s = 1e-6;

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
    if (known.reference == of) return known.costs.with_growth_at(count);
  std::optional<RunCost> dearest;
  for (std::size_t series = 0; series < state.plan.series.size(); ++series) {
    if (!(state.plan.series[series].warm() == of) || state.known[series].empty()) continue;
    const RunCost cost = state.known[series].with_growth_at(count);
    if (!dearest || dearest->frame_s < cost.frame_s) dearest = cost;
  }
  return dearest;
}

void check_reference(StudyState& state, const Series& reference, std::int64_t largest, double max_s,
                     Progress& progress) {
  ReferenceCosts known{reference, {}};
  double next_s = 0;
  for (std::int64_t count = std::min(largest, counts_checked(state.plan).front()); next_s <= max_s;
       count = std::min(largest, count * larger_look)) {
    if (state.is_stop_asked()) return;
    const RunCost cost = look(state, reference, count, next_s, max_s, progress);
    known.costs.add(count, cost, 1e3 * cost.frame_s);
    if (count == largest) break;
    const RunCost next = known.costs.with_growth_at(count * larger_look);
    next_s = next.beside_s + frames_of_a_look * next.frame_s;
  }
  state.reference_costs.push_back(known);
}

}  // namespace mileage
