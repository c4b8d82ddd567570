#include "measure/loop/measure_study.h"

#include <algorithm>
#include <cmath>

#include "analysis/answers/goal.h"
#include "measure/loop/checking.h"
#include "measure/loop/range_finding.h"
#include "measure/loop/rounds.h"
#include "measure/loop/traces.h"

namespace mileage {
namespace {

void make_runs(StudyState& state) {
  if (state.head.made_by == MadeBy::person) {
    take_all_cells(state);
  } else {
    check_outcomes(state);
    find_ranges(state);
  }
  find_cells(state);
  if (state.head.made_by != MadeBy::person) check_what_is_measured(state);
  make_traces(state);
  make_rounds(state);
}

/// Counts of the plan in no block, by series.
std::vector<LeftOut> left_out_of(const StudyState& state) {
  std::vector<LeftOut> left_out;
  const std::vector<Run>& runs = state.recorder.study().runs;
  for (std::size_t series = 0; series < state.plan.series.size(); ++series)
    for (const std::int64_t count : state.plan.counts) {
      const bool is_measured = std::any_of(runs.begin(), runs.end(), [&](const Run& run) {
        return run.count == count && run.series == state.plan.series[series] &&
               (run.block >= 0 || run.status == RunStatus::failed);
      });
      const auto why = state.left_out.find({series, count});
      if (why != state.left_out.end() && (!is_measured || why->second == LeftOutWhy::over_limit))
        left_out.push_back({series, count, why->second});
      else if (!is_measured)
        left_out.push_back(
            {series, count,
             state.summary.blocks >= rounds_needed ? LeftOutWhy::others_say_more : LeftOutWhy::not_reached});
    }
  return left_out;
}

/// Widths shrink with the square root of the time.
void note_precision(StudyState& state) {
  const Plan& plan = state.plan;
  if (state.summary.blocks == 0 || (plan.precision <= 0 && !state.watch.progress)) return;
  std::optional<double>& reached_by_all = state.summary.reached;
  reached_by_all = reached(state.recorder.study(), plan.goal).half_width;
  if (!reached_by_all) return;
  const double ratio = std::log1p(*reached_by_all) / std::log1p(plan.precision > 0 ? plan.precision : usual_precision);
  const double rounds_s = state.recorder.elapsed_s() - state.rounds_since_s;
  state.summary.lacking_s = std::max(0.0, ratio * ratio - 1) * rounds_s;
}

Summary finished(StudyState& state) {
  note_precision(state);
  Summary summary = state.summary;
  const DisturbanceFilter& judge = state.recorder.judge();
  for (const Run& run : state.recorder.study().runs) {
    summary.kept += is_evidence(run, judge);
    summary.failed += run.status == RunStatus::failed;
    summary.condemned += run.block >= 0 && run.status != RunStatus::failed;
  }
  summary.condemned -= summary.kept;
  summary.left_out = left_out_of(state);
  summary.elapsed_s = state.recorder.elapsed_s();
  summary.yardstick_ns = judge.own_fast_by_cores_ns();
  return summary;
}

}  // namespace

Summary measure_study(const Head& head, const std::vector<Run>& made, Runner& runner, Clock& clock,
                      const Watch& watch) {
  StudyState state(head, made, runner, clock, watch);
  try {
    make_runs(state);
  } catch (const Runner::Stopped&) {
    state.summary.stopped = true;
  }
  return finished(state);
}

}  // namespace mileage
