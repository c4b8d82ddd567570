#include "measure/loop/checking.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <map>

#include "analysis/evidence/agreement.h"
#include "measure/loop/check_costs.h"
#include "measure/loop/check_plan.h"
#include "measure/loop/rounds.h"

namespace mileage {
namespace {

/// Of the time, at one count; a smaller count is used if checks would exceed it.
constexpr double share_for_checks = 0.1;
constexpr std::int64_t smaller_check = 4;
/// Smallest ratio to the smallest count that is worth a check.
constexpr std::int64_t min_larger = 2;
/// Of all checks; beyond it only plain ones are made.
constexpr double share_for_all_checks = 0.12;
/// Of all later checks, and of one.
constexpr double share_for_later_checks = 0.08;
constexpr double longest_check_s = 2;
/// Of round time, for checks of runs,
constexpr double share_for_checks_of_runs = 0.06;
/// saved over up to this number of rounds.
constexpr int rounds_saved_for = 4;
/// Ratio of largest counts that share a check.
constexpr double close_counts = 1.25;
constexpr double min_check_frames = 2;
constexpr int longest_horizon = 20'000;

struct CheckTime {
  std::int64_t count = 0;
  double seconds = 0;
};

/// All checks, or only the first if it takes too long and a smaller count may be used. Returns the first's time.
CheckTime check_at(StudyState& state, const std::vector<Check>& checks, double longest_s) {
  Progress progress;
  progress.checking = true;
  progress.cells = checks.size();
  CheckTime first;
  for (const Check& one : checks) {
    if (state.is_stop_asked()) break;
    if (!(one.varied == Knobs{}) && !state.has_spent_less_than(share_for_all_checks)) break;
    const Run run = state.recorder.make({one.series, one.varied, one.count, -1, RunStatus::check}, progress);
    if (&one != &checks.front()) continue;
    first = {one.count, run.took_s};
    if (first.seconds > longest_s) break;
  }
  return first;
}

/// Interpolated between two tried: set-up costs something at any count.
std::int64_t count_that_takes(double seconds, const CheckTime& small, const CheckTime& large) {
  const double share = (seconds - small.seconds) / std::max(large.seconds - small.seconds, 1e-9);
  const double count = static_cast<double>(small.count) + share * static_cast<double>(large.count - small.count);
  return std::min(static_cast<std::int64_t>(std::max(count, 0.0)), large.count / smaller_check);
}

/// Or at a smaller one that fits the time.
void check_larger(StudyState& state, std::int64_t count, const CheckTime& small) {
  std::int64_t next = count;
  do {
    const std::vector<Check> checks = checks_at(state.head.scenario, state.plan, next);
    const double longest_s =
        state.plan.time_s > 0 ? share_for_checks * state.plan.time_s / static_cast<double>(checks.size()) : HUGE_VAL;
    const CheckTime large = check_at(state, checks, longest_s);
    if (large.seconds <= longest_s) return;
    next = count_that_takes(longest_s, small, large);
  } while (next >= min_larger * small.count && !state.is_stop_asked());
}

void exclude_what_differs(StudyState& state) {
  const std::vector<Agreement> agreements = agreements_of(state.recorder.study());
  for (std::size_t series = 0; series < agreements.size(); ++series) {
    state.is_excluded[series] = !agreements[series].may_answer();
    if (!state.is_excluded[series]) continue;
    for (const std::int64_t count : state.plan.counts) state.leave_out(series, count, LeftOutWhy::outcome_differs);
  }
}

/// Per check.
double allowed_s(const StudyState& state, std::size_t checks) {
  if (state.plan.time_s <= 0) return longest_check_s;
  return std::min(longest_check_s, share_for_later_checks * state.plan.time_s / static_cast<double>(checks));
}

/// Slowest set-up and frame among the checked series.
RunCost dearest_cost(const StudyState& state, const std::vector<Check>& checks, std::int64_t count) {
  RunCost dearest{0, 0, 1e-9};
  for (const Check& check : checks)
    if (const auto cost = check_cost(state, check.series, count)) {
      dearest.frame_s = std::max(dearest.frame_s, cost->frame_s);
      dearest.beside_s = std::max(dearest.beside_s, cost->beside_s);
    }
  return dearest;
}

/// 0 if set-up alone takes too long.
double affordable_frames(const StudyState& state, const std::vector<Check>& checks, double seconds) {
  const RunCost cost = dearest_cost(state, checks, checks.front().count);
  return std::max(0.0, (seconds - cost.beside_s) / cost.frame_s);
}

void make_checks(StudyState& state, const std::vector<Check>& checks, int frames, Progress& progress) {
  const RunCost cost = dearest_cost(state, checks, checks.front().count);
  for (const Check& one : checks) {
    if (state.is_stop_asked()) return;
    Order order{one.series, one.varied, one.count, -1, RunStatus::check};
    order.check_frames = frames;
    order.predicted_s = cost.beside_s + frames * cost.frame_s;
    state.recorder.make(order, progress);
  }
}

/// Close counts share one check.
std::map<std::int64_t, std::vector<Series>> by_largest_count(const StudyState& state) {
  std::map<std::int64_t, std::vector<Series>, std::greater<>> all;
  for (std::size_t series = 0; series < state.plan.series.size(); ++series) {
    if (state.plan.series[series].is_floor()) continue;
    std::int64_t largest = 0;
    for (const Cell& cell : state.cells)
      if (cell.series == series) largest = std::max(largest, cell.count);
    if (largest > 0) all[largest].push_back(state.plan.series[series]);
  }
  std::map<std::int64_t, std::vector<Series>> shared;
  std::int64_t count = 0;
  for (const auto& [largest, series] : all) {
    if (static_cast<double>(largest) * close_counts < static_cast<double>(count) || count == 0) count = largest;
    shared[count].insert(shared[count].end(), series.begin(), series.end());
  }
  return shared;
}

/// Without outcomes further checks are useless.
bool states_outcomes(const StudyState& state) {
  const std::vector<Run>& runs = state.recorder.study().runs;
  return std::any_of(runs.begin(), runs.end(),
                     [](const Run& run) { return run.status == RunStatus::check && !run.outcome.empty(); });
}

using ByLargestCount = std::map<std::int64_t, std::vector<Series>>;

std::size_t checks_of_largest(const StudyState& state, const ByLargestCount& all) {
  std::size_t number = 0;
  for (const auto& [count, series] : all) number += plain_checks(state.head.scenario, state.plan, series, count).size();
  return number;
}

void check_references(StudyState& state, Progress& progress) {
  const ByLargestCount all = by_largest_count(state);
  const double max_s = allowed_s(state, checks_of_largest(state, all));
  for (const auto& [largest, series] : all)
    for (const Check& check : plain_checks(state.head.scenario, state.plan, series, largest))
      if (!check_cost(state, check.series, largest)) check_reference(state, check.series, largest, max_s, progress);
}

void check_largest_counts(StudyState& state, Progress& progress) {
  const auto all = by_largest_count(state);
  const std::int64_t checked = counts_checked(state.plan).back();
  const std::size_t number = checks_of_largest(state, all);
  for (const auto& [largest, series] : all)
    for (std::int64_t count = largest; count > checked; count /= 2) {
      const std::vector<Check> checks = plain_checks(state.head.scenario, state.plan, series, count);
      const double frames = affordable_frames(state, checks, allowed_s(state, number));
      if (frames < min_check_frames) continue;
      make_checks(state, checks, static_cast<int>(std::min<double>(frames, check_frames)), progress);
      break;
    }
}

void check_long_run(StudyState& state, Progress& progress) {
  std::vector<Series> measured;
  for (const Cell& cell : state.cells)
    if (std::find(measured.begin(), measured.end(), state.plan.series[cell.series]) == measured.end())
      measured.push_back(state.plan.series[cell.series]);
  const std::int64_t count = counts_checked(state.plan).front();
  const std::vector<Check> checks = plain_checks(state.head.scenario, state.plan, measured, count);
  if (checks.empty()) return;
  double cheapest_ms = HUGE_VAL;
  for (const KnownCosts& known : state.known)
    if (!known.empty()) cheapest_ms = std::min(cheapest_ms, known.fast_ms(count));
  const double of_a_run = std::max<double>(state.plan.min_frames, state.plan.min_ms / cheapest_ms);
  const double affordable = affordable_frames(state, checks, allowed_s(state, checks.size()));
  const int frames = static_cast<int>(std::min({of_a_run, affordable, static_cast<double>(longest_horizon)}));
  if (frames > check_frames) make_checks(state, checks, frames, progress);
}

void drop_what_differs(StudyState& state) {
  exclude_what_differs(state);
  const auto is_out = [&](const Cell& cell) { return state.is_excluded[cell.series]; };
  std::erase_if(state.ladder, is_out);
  std::erase_if(state.cells, is_out);
}

/// Warm-up included, limited; 0 without such a run.
int frames_of_run(const StudyState& state, const Cell& cell, int block) {
  const std::vector<Run>& runs = state.recorder.study().runs;
  for (auto run = runs.rbegin(); run != runs.rend() && run->block >= block; ++run) {
    if (run->status == RunStatus::failed || run->count != cell.count ||
        !(run->series == state.plan.series[cell.series]))
      continue;
    const std::size_t samples = run->warmup_ns.size() + run->samples_ns.size();
    return static_cast<int>(
        std::min<std::int64_t>(run->frames_per_sample * static_cast<std::int64_t>(samples), longest_horizon));
  }
  return 0;
}

/// With that of its reference, if that is another series.
std::vector<Check> checks_of_cell(const StudyState& state, const Cell& cell) {
  return plain_checks(state.head.scenario, state.plan, {state.plan.series[cell.series]}, cell.count);
}

std::ptrdiff_t checks_of_runs(const StudyState& state, const Cell& cell) {
  const std::vector<Run>& runs = state.recorder.study().runs;
  return std::count_if(runs.begin(), runs.end(), [&](const Run& run) {
    return run.check_frames > check_frames && run.count == cell.count && run.series == state.plan.series[cell.series];
  });
}

/// Of those checked least, the first in random order whose check fits and has more frames than the first ones.
void draw_a_run(StudyState& state, int block, double max_s) {
  std::vector<Cell> cells = check_order(state.cells, state.plan.seed, block);
  std::stable_sort(cells.begin(), cells.end(),
                   [&](const Cell& a, const Cell& b) { return checks_of_runs(state, a) < checks_of_runs(state, b); });
  for (const Cell& cell : cells) {
    const std::vector<Check> checks = checks_of_cell(state, cell);
    if (checks.size() <= 1) continue;  // The reference or a floor.
    const auto both = static_cast<double>(checks.size());
    const double affordable = affordable_frames(state, checks, max_s / both);
    const int frames = static_cast<int>(std::min<double>(frames_of_run(state, cell, block), affordable));
    if (frames <= check_frames) continue;
    const RunCost cost = dearest_cost(state, checks, cell.count);
    state.drawn = DrawnRun{cell, frames, both * (cost.beside_s + frames * cost.frame_s)};
    return;
  }
}

}  // namespace

void check_what_is_measured(StudyState& state) {
  if (state.cells.empty() || !states_outcomes(state)) return;
  Progress progress;
  progress.checking = true;
  check_references(state, progress);
  check_long_run(state, progress);
  check_largest_counts(state, progress);
  drop_what_differs(state);
}

void check_a_run(StudyState& state, int block) {
  if (!states_outcomes(state)) return;
  const double allowed_s = share_for_checks_of_runs * predicted_round_s(state);
  if (!state.drawn) draw_a_run(state, block, allowed_s * rounds_saved_for);
  if (!state.drawn || state.run_checks_s + state.drawn->takes_s > allowed_s * (block + 1)) return;
  const DrawnRun drawn = *state.drawn;
  state.drawn.reset();
  if (!state.may_run(drawn.cell.series, drawn.cell.count)) return;
  Progress progress;
  progress.checking = true;
  const double before_s = state.recorder.runs_s();
  make_checks(state, checks_of_cell(state, drawn.cell), drawn.frames, progress);
  state.run_checks_s += state.recorder.runs_s() - before_s;
  drop_what_differs(state);
}

void check_outcomes(StudyState& state) {
  const std::vector<std::int64_t> counts = counts_checked(state.plan);
  const CheckTime small = check_at(state, checks_at(state.head.scenario, state.plan, counts.front()), HUGE_VAL);
  if (counts.size() > 1 && state.has_spent_less_than(share_for_all_checks)) check_larger(state, counts.back(), small);
  exclude_what_differs(state);
}

}  // namespace mileage
