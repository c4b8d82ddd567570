#include "measure/loop/range_finding.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include "analysis/curves/rough_costs.h"
#include "analysis/evidence/judged_run.h"
#include "measure/loop/block_plan.h"
#include "measure/loop/run_cost.h"

namespace mileage {
namespace {

/// The first count far over budget is kept unless the one before was over by this: short runs are often too slow.
constexpr double surely_over_budget = 1.2;
/// Runs at a count that seems over budget.
constexpr int looks_at_an_end = 2;
constexpr int range_finding_frames = 3;
/// Seconds of a recording by hand.
constexpr double by_hand_s = 40;

/// A series on its way up.
struct Ramp {
  bool is_over = false;         ///< Far over budget; over budget if runs are expensive.
  bool is_surely_over = false;  ///< No count far over it is needed.
};

void climb(StudyState& state, std::size_t series, std::int64_t count, Ramp& so_far, Progress& progress) {
  const bool may_be_left_out = state.plan.aim && !state.plan.listed;
  if (so_far.is_over && may_be_left_out) return state.leave_out(series, count, LeftOutWhy::over_budget);
  const auto placed = place_cell(state, series, count, progress);
  if (!placed) return;
  const double budget_ms = state.plan.budget_ms;
  const bool is_dear_here = is_dear(state.plan, state.run_costs[series].at(count).beside_s);
  so_far.is_over = placed->frame_ms > (is_dear_here ? 1 : far_over_budget) * budget_ms;
  if (so_far.is_over && so_far.is_surely_over && may_be_left_out)
    state.leave_out(series, count, LeftOutWhy::over_budget);
  else
    state.ladder.push_back(placed->cell);
  so_far.is_surely_over = so_far.is_surely_over || placed->frame_ms > surely_over_budget * budget_ms;
}

/// The next one, or further if range finding would otherwise take too long; at most what one run allows.
std::size_t next_count(const StudyState& state, std::size_t at, double last_s) {
  const std::vector<std::int64_t>& counts = state.plan.counts;
  if (state.plan.time_s <= 0 || state.plan.listed || at + 1 >= counts.size()) return at + 1;
  const double left_s = share_for_range_finding * state.plan.time_s - state.recorder.runs_s();
  const double rounds = std::max(1.0, left_s / std::max(last_s, 1e-9));
  std::size_t next = at + static_cast<std::size_t>(std::ceil(static_cast<double>(counts.size() - at - 1) / rounds));
  while (next > at + 1 && last_s * static_cast<double>(counts[next]) / static_cast<double>(counts[at]) > left_s) --next;
  return next;
}

}  // namespace

void find_ranges(StudyState& state) {
  Progress progress;
  progress.range_finding = true;
  const std::vector<std::int64_t>& counts = state.plan.counts;
  std::vector<Ramp> climbs(state.plan.series.size());
  std::size_t next = 0;
  for (std::size_t at = 0; at < counts.size(); ++at) {
    const double before_s = state.recorder.runs_s();
    const bool is_passed_over = at < next || (at > 0 && !state.has_spent_less_than(share_for_range_finding));
    for (std::size_t series = 0; series < climbs.size(); ++series) {
      if (state.is_stop_asked() || !state.may_run(series, counts[at])) continue;
      if (is_passed_over && state.plan.aim && !state.plan.listed)
        state.leave_out(series, counts[at], LeftOutWhy::range_finding_time);
      else
        climb(state, series, counts[at], climbs[series], progress);
    }
    if (!is_passed_over) next = next_count(state, at, state.recorder.runs_s() - before_s);
  }
  state.cells = state.ladder;
}

void take_all_cells(StudyState& state) {
  for (std::size_t series = 0; series < state.plan.series.size(); ++series)
    for (const std::int64_t count : state.plan.counts)
      state.cells.push_back({series, count, false, state.plan.min_frames, by_hand_s});
}

double foreseen_range_finding_s(const StudyState& state, std::size_t series, std::int64_t count, int frames) {
  if (state.costs[series].empty()) return std::numeric_limits<double>::infinity();
  return predicted_s(state.plan, state.plan.series[series], cost_near(state, series, count), frames);
}

std::optional<PlacedCell> place_cell(StudyState& state, std::size_t series, std::int64_t count, Progress& progress) {
  const Plan& plan = state.plan;
  const Order order{plan.series[series], {}, count, -1, RunStatus::range_finding, range_finding_frames};
  const Run run = state.run(order, foreseen_range_finding_s(state, series, count, range_finding_frames), progress);
  if (run.status == RunStatus::failed) return std::nullopt;
  double frame_ms = rough_fast_ms(state.recorder.judge(), run);
  for (int look = 1; look < looks_at_an_end && frame_ms > surely_over_budget * plan.budget_ms; ++look) {
    if (!state.has_spent_less_than(share_for_range_finding) || is_dear(plan, run.took_s)) break;
    const Run again = state.recorder.make(order, progress);
    if (again.status != RunStatus::failed) frame_ms = std::min(frame_ms, rough_fast_ms(state.recorder.judge(), again));
  }
  const RunCost cost = run_cost_of(run);
  const int frames = frames_for(plan, frame_ms, cost);
  state.costs[series][count] = frame_ms;
  state.run_costs[series][count] = cost;
  return PlacedCell{{series, count, false, frames, predicted_s(plan, plan.series[series], cost, frames)}, frame_ms};
}

}  // namespace mileage
