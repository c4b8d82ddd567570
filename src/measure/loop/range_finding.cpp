#include "measure/loop/range_finding.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <optional>

namespace mileage {
namespace {

constexpr int range_finding_frames = 3;
/// Largest ratio of counts tried one after the other: four times the time of a run.
constexpr double max_growth_of_counts = 4;
/// Past the budget in one step, if cost is nearly proportional.
constexpr double past_budget = 1.15;
/// Of the longest run: the machine may get twice as slow.
constexpr double share_of_limit = 0.5;
/// Beyond the plan's counts, flatter curves never cross it.
constexpr double min_growth_beyond = 0.1;
constexpr double max_entities_tried = 1e9;
/// Seconds of a recording by hand.
constexpr double by_hand_s = 40;

/// Whether the run came to its end.
bool look_at(StudyState& state, std::size_t series, std::int64_t count, Progress& progress) {
  if (state.is_stop_asked()) return false;
  const Order order{state.plan.series[series], {}, count, -1, RunStatus::range_finding, range_finding_frames};
  const KnownCosts& known = state.known[series];
  const double foreseen_s = known.empty()
                                ? std::numeric_limits<double>::infinity()
                                : predicted_s(state.plan, order.series, known.at(count), range_finding_frames);
  return state.run(order, foreseen_s, progress).status != RunStatus::failed;
}

/// Every series at every count, each until far over the budget; or listed ones in any case.
void try_planned_counts(StudyState& state, Progress& progress) {
  for (const std::int64_t count : state.plan.counts)
    for (std::size_t series = 0; series < state.plan.series.size(); ++series)
      if (state.may_run(series, count)) look_at(state, series, count, progress);
}

/// The next count of a series on its way to the budget; nothing beyond.
std::optional<std::int64_t> next_count(const StudyState& state, std::size_t series) {
  const KnownCosts& known = state.known[series];
  if (known.empty()) return state.plan.counts.front();
  const double budget_ms = goal_budget_ms(state.plan);
  const double last_ms = known.fast_ms(known.largest());
  const RunCost last = known.at(known.largest());
  const double last_s = last.beside_s + (last.warmup_frames + range_finding_frames) * last.frame_s;
  const double fits = share_of_limit * longest_run_s(state.plan) / last_s;
  const double times = std::min(fits, std::clamp(past_budget * budget_ms / last_ms, past_budget, max_growth_of_counts));
  const double next = static_cast<double>(known.largest()) * times;
  const bool is_flat = known.largest() > state.plan.counts.back() && known.growth_at_the_end() < min_growth_beyond;
  if (last_ms > budget_ms || is_flat || times < past_budget || next > max_entities_tried ||
      !state.may_be_tried(series, next))
    return std::nullopt;
  return std::llround(next);
}

/// All series in turn, each until it crosses the budget or fails.
void grow_to_budget(StudyState& state, Progress& progress) {
  std::vector<bool> is_done(state.plan.series.size());
  for (bool goes_on = true; goes_on && state.has_spent_less_than(share_for_range_finding);) {
    goes_on = false;
    for (std::size_t series = 0; series < is_done.size(); ++series) {
      const auto next = is_done[series] ? std::nullopt : next_count(state, series);
      is_done[series] = !next || !state.may_run(series, *next) || !look_at(state, series, *next, progress);
      goes_on = goes_on || !is_done[series];
    }
  }
}

Cell cell_at(const StudyState& state, std::size_t series, std::int64_t count) {
  const RunCost cost = state.known[series].at(count);
  const int frames = frames_for(state.plan, state.known[series].fast_ms(count), cost);
  return {series, count, frames, predicted_s(state.plan, state.plan.series[series], cost, frames)};
}

bool has_failed(const StudyState& state, std::size_t series, std::int64_t count) {
  const std::vector<Run>& runs = state.recorder.study().runs;
  return !state.known[series].knows(count) && std::any_of(runs.begin(), runs.end(), [&](const Run& run) {
    return run.count == count && run.series == state.plan.series[series] && run.status == RunStatus::failed;
  });
}

void take_ladder(StudyState& state) {
  for (std::size_t series = 0; series < state.plan.series.size(); ++series)
    for (const std::int64_t count : state.plan.counts) {
      if (!state.may_run(series, count) || has_failed(state, series, count)) continue;
      if (!state.known[series].empty() && count <= state.known[series].largest())
        state.ladder.push_back(cell_at(state, series, count));
      else
        state.leave_out(series, count, LeftOutWhy::over_budget);
    }
}

}  // namespace

void find_ranges(StudyState& state) {
  Progress progress;
  progress.range_finding = true;
  if (state.plan.listed || !state.plan.aim) try_planned_counts(state, progress);
  if (state.plan.aim) grow_to_budget(state, progress);
  take_ladder(state);
}

void take_all_cells(StudyState& state) {
  for (std::size_t series = 0; series < state.plan.series.size(); ++series)
    for (const std::int64_t count : state.plan.counts)
      state.ladder.push_back({series, count, state.plan.min_frames, by_hand_s});
}

}  // namespace mileage
