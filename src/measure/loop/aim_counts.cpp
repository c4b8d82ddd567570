#include "measure/loop/aim_counts.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>

#include "analysis/curves/rough_costs.h"
#include "analysis/evidence/judged_run.h"
#include "measure/loop/block_plan.h"
#include "measure/loop/range_finding.h"
#include "measure/loop/slow_frames.h"
#include "measure/loop/run_cost.h"

namespace mileage {
namespace {

/// More than other range-finding runs, since it decides where counts are placed.
constexpr int aiming_frames = 8;
constexpr int looks_at_an_aim = 3;
/// Ratio of neighbouring counts at which an aim is known.
constexpr double near_enough = 1.08;
/// Larger counts tried while within budget: by this factor, or less near the budget.
constexpr int steps_beyond = 6;
constexpr double step_beyond = 2.5;
constexpr double min_step_beyond = 1.15;
constexpr double beyond_in_proportion = 1.1;
/// Extrapolation beyond all counts tried.
constexpr double max_in_proportion = 3;
/// After this many blocks aims move only for missed capacities.
constexpr int blocks_that_aim = 2;
constexpr double max_entities_aimed = 1e9;
/// Of the time: with checks and range finding, a third in all.
constexpr double share_for_aiming = 0.24;

bool was_looked_at(const StudyState& state, const Aim& aim) {
  const auto was_seen = [&](std::size_t series) {
    return std::any_of(state.costs[series].begin(), state.costs[series].end(), [&](const auto& cost) {
      const double ratio = static_cast<double>(cost.first) / *aim.at;
      return ratio < near_enough && ratio > 1 / near_enough;
    });
  };
  return was_seen(aim.series) && (!aim.other || was_seen(*aim.other));
}

/// Where single runs are expensive, the first blocks decide.
bool is_worth_checking(const StudyState& state, const Aim& aim) {
  for (std::size_t series = 0; series < state.plan.series.size(); ++series)
    if (aim.concerns(series) && is_dear(state.plan, cost_near(state, series, std::llround(*aim.at)).beside_s))
      return false;
  return !was_looked_at(state, aim);
}

void reach_for_budget(StudyState& state, const Aim& aim, Progress& progress) {
  const RoughCosts& costs = state.costs[aim.series];
  for (int step = 0; step < steps_beyond && !costs.empty() && !state.is_stop_asked(); ++step) {
    if (step > 0 && !state.has_spent_less_than(share_for_aiming)) return;
    const auto [count, ms] = *costs.rbegin();
    const double in_proportion = beyond_in_proportion * aim.budget_ms / std::max(ms, 1e-9);
    const double next = static_cast<double>(count) * std::clamp(in_proportion, min_step_beyond, step_beyond);
    if (ms > aim.budget_ms || count > max_entities_aimed / step_beyond || !may_be_tried(state, aim.series, next))
      return;
    if (!place_cell(state, aim.series, std::llround(next), progress)) return;
  }
}

void look_at_aim(StudyState& state, const Aim& aim, Progress& progress) {
  const std::int64_t count = std::max<std::int64_t>(1, std::llround(*aim.at));
  for (std::size_t series = 0; series < state.plan.series.size(); ++series) {
    if (!aim.concerns(series) || !state.may_run(series, count)) continue;
    const Order order{state.plan.series[series], {}, count, -1, RunStatus::range_finding, aiming_frames};
    const Run run = state.run(order, foreseen_range_finding_s(state, series, count, aiming_frames), progress);
    if (run.status == RunStatus::failed) continue;
    state.costs[series][count] = rough_fast_ms(state.recorder.judge(), run);
    state.run_costs[series][count] = run_cost_of(run);
  }
}

/// Each aim once before any twice.
void look_at_aims(StudyState& state, Progress& progress) {
  for (int look = 0; look < looks_at_an_aim; ++look)
    for (Aim& aim : state.aims) {
      if (state.is_stop_asked() || !state.has_spent_less_than(share_for_aiming)) return;
      aim.at = rough_place(aim, state.costs);
      if (aim.at && is_worth_checking(state, aim)) look_at_aim(state, aim, progress);
    }
}

/// By series and count.
using GoodCosts = std::vector<std::map<std::int64_t, std::vector<double>>>;

GoodCosts good_costs(const StudyState& state) {
  GoodCosts good(state.plan.series.size());
  for (const Run& run : state.recorder.study().runs)
    if (is_evidence(run, state.recorder.judge()))
      good[state.index_of(run.series)][run.count].push_back(rough_fast_ms(state.recorder.judge(), run));
  return good;
}

/// Of two the smaller one: spikes are long.
double usual_of(std::vector<double> values) {
  const auto middle = values.begin() + static_cast<std::ptrdiff_t>((values.size() - 1) / 2);
  std::nth_element(values.begin(), middle, values.end());
  return *middle;
}

/// Replaces earlier estimates between the blocks' counts and scales those outside by the nearest.
void take_costs_of_blocks(StudyState& state, const GoodCosts& good) {
  for (std::size_t series = 0; series < good.size(); ++series) {
    if (good[series].empty()) continue;
    RoughCosts measured;
    for (const auto& [count, ms] : good[series]) measured[count] = usual_of(ms);
    const auto [smallest, smallest_ms] = *measured.begin();
    const auto [largest, largest_ms] = *measured.rbegin();
    const double below = smallest_ms / rough_cost(state.costs[series], smallest);
    const double above = largest_ms / rough_cost(state.costs[series], largest);
    for (const auto& [count, ms] : state.costs[series])
      if (count < smallest || count > largest) measured.emplace(count, ms * (count > largest ? above : below));
    state.costs[series] = measured;
  }
}

AimPoints points_of(const Aim& aim, const GoodCosts& good) {
  AimPoints points;
  for (const auto& [count, ms] : good[aim.series]) {
    const auto runs = static_cast<int>(ms.size());
    if (!aim.other) {
      points[count] = {usual_of(ms), runs};
    } else if (const auto there = good[*aim.other].find(count); there != good[*aim.other].end()) {
      points[count] = {usual_of(ms) / usual_of(there->second), std::min(runs, static_cast<int>(there->second.size()))};
    }
  }
  return points;
}

void aim_into_jumps(StudyState& state, const GoodCosts& good) {
  for (Aim& aim : state.aims)
    if (aim.at && aim.frames == FramesOf::typical) aim_into_jump(aim, points_of(aim, good));
}

/// Places or moves an aim to where these frames exceed the budget; returns whether it did.
bool aim_at(StudyState& state, FramesOf frames, const std::vector<RoughCosts>& costs) {
  bool has_moved = false;
  for (std::size_t series = 0; series < costs.size(); ++series) {
    Aim wanted;
    wanted.series = series;
    wanted.budget_ms = state.plan.goal.budget_ms > 0 ? state.plan.goal.budget_ms : state.plan.budget_ms;
    wanted.frames = frames;
    wanted.at = rough_place(wanted, costs);
    if (!wanted.at) continue;
    const auto known = std::find_if(state.aims.begin(), state.aims.end(),
                                    [&](const Aim& aim) { return aim.frames == frames && aim.series == series; });
    if (known != state.aims.end() && !is_missed(*known, *wanted.at)) continue;
    if (known == state.aims.end())
      state.aims.push_back(wanted);
    else
      known->at = wanted.at;
    has_moved = true;
  }
  return has_moved;
}

/// Extrapolates a capacity beyond all counts tried.
std::optional<double> place_by_costs(const StudyState& state, const Aim& aim) {
  const auto place = rough_place(aim, state.costs);
  const RoughCosts& costs = state.costs[aim.series];
  if (place || aim.other || costs.empty()) return place;
  const auto [count, ms] = *costs.rbegin();
  const double times = aim.budget_ms / ms;
  if (times <= 1 || (!aim.at && times > max_in_proportion)) return std::nullopt;
  return static_cast<double>(count) * std::min(max_in_proportion, times);
}

/// Aims of the goal and of arrivals; returns whether any was placed or moved.
bool aim_at_other_frames(StudyState& state) {
  if (state.plan.goal.figure == "breakeven") return false;
  const bool has_moved = state.plan.goal.for_99 && aim_at(state, FramesOf::max, max_frames_of(state));
  return (state.plan.arrive > 0 && aim_at(state, FramesOf::worst, worst_frames_of(state))) || has_moved;
}

}  // namespace

void aim_at_figures(StudyState& state) {
  state.aims = aims_of(state.head.scenario, state.plan);
  state.drop_excluded_aims();
  Progress progress;
  progress.range_finding = true;
  for (const Aim& aim : state.aims)
    if (!aim.other && state.has_spent_less_than(share_for_aiming)) reach_for_budget(state, aim, progress);
  look_at_aims(state, progress);
  for (Aim& aim : state.aims) aim.at = place_by_costs(state, aim);
  aim_at_other_frames(state);
  choose_places(state.aims);
  plan_block(state, 0);
}

void correct_aims(StudyState& state, int block) {
  if (!state.plan.aim) return;
  const bool is_early = block < blocks_that_aim;
  const GoodCosts good = good_costs(state);
  take_costs_of_blocks(state, good);
  bool has_moved = false;
  for (Aim& aim : state.aims) {
    if (aim.frames != FramesOf::typical || (!is_early && (aim.other || !aim.at))) continue;
    const auto found = place_by_costs(state, aim);
    if (!found) continue;
    if (aim.at && (is_early ? is_well_aimed(aim, *found, state.costs) : !is_missed(aim, *found))) continue;
    aim.at = found;
    has_moved = true;
  }
  has_moved = aim_at_other_frames(state) || has_moved;
  if (has_moved) choose_places(state.aims);
  aim_into_jumps(state, good);
}

}  // namespace mileage
