#include "measure/loop/placing.h"

#include <algorithm>

#include "analysis/evidence/judged_visit.h"
#include "measure/loop/visit_cost.h"

namespace mileage {
namespace {

/// The first count that is far over the budget stays in unless the one before was surely over it: a placing visit is
/// short and easily too slow.
constexpr double surely_over_budget = 1.2;
/// Placing visits of a count that looks over the budget.
constexpr int looks_at_an_end = 2;
constexpr int placing_frames = 2;
/// What a recording by hand takes.
constexpr double by_hand_s = 40;

}  // namespace

void place_series(StudyState& state) {
  Progress progress;
  progress.placing = true;
  const Plan& plan = state.plan;
  std::vector<bool> far_over(plan.series.size(), false);
  std::vector<bool> surely_over(plan.series.size(), false);
  for (const std::int64_t count : plan.counts)
    for (std::size_t series = 0; series < plan.series.size(); ++series) {
      if (far_over[series] || state.is_stop_asked()) continue;
      const auto placed = place_cell(state, series, count, progress);
      if (!placed) continue;
      far_over[series] = placed->frame_ms > far_over_budget * plan.budget_ms;
      if (!far_over[series] || !surely_over[series]) state.ladder.push_back(placed->cell);
      surely_over[series] = surely_over[series] || placed->frame_ms > surely_over_budget * plan.budget_ms;
    }
  state.cells = state.ladder;
}

void take_all_cells(StudyState& state) {
  for (std::size_t series = 0; series < state.plan.series.size(); ++series)
    for (const std::int64_t count : state.plan.counts)
      state.cells.push_back({series, count, false, state.plan.least_frames, by_hand_s});
}

std::optional<PlacedCell> place_cell(StudyState& state, std::size_t series, std::int64_t count, Progress& progress) {
  const Plan& plan = state.plan;
  const Order order{plan.series[series], {}, count, -1, VisitStatus::placing, placing_frames};
  const Visit visit = state.recorder.make(order, progress);
  if (visit.status == VisitStatus::failed) return std::nullopt;
  double frame_ms = state.recorder.judge().rough_fast_ms(visit);
  for (int look = 1; look < looks_at_an_end && frame_ms > surely_over_budget * plan.budget_ms; ++look) {
    const Visit again = state.recorder.make(order, progress);
    if (again.status != VisitStatus::failed) frame_ms = std::min(frame_ms, state.recorder.judge().rough_fast_ms(again));
  }
  const int frames = frames_for(plan, frame_ms);
  state.costs[series][count] = frame_ms;
  return PlacedCell{{series, count, false, frames, predicted_s(plan, visit, frames)}, frame_ms};
}

}  // namespace mileage
