#include "measure/loop/measure_study.h"

#include <algorithm>

#include "measure/loop/aim_counts.h"
#include "measure/loop/blocks.h"
#include "measure/loop/checking.h"
#include "measure/loop/range_finding.h"
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
  if (state.plan.aim) aim_at_figures(state);
  if (state.head.made_by != MadeBy::person) check_what_is_measured(state);
  make_traces(state);
  make_blocks(state);
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
        left_out.push_back({series, count, LeftOutWhy::not_reached});
    }
  return left_out;
}

Summary finished(StudyState& state) {
  check_final_precision(state);
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
