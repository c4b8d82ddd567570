#include "measure/loop/measure_study.h"

#include "measure/loop/aim_counts.h"
#include "measure/loop/blocks.h"
#include "measure/loop/checking.h"
#include "measure/loop/placing.h"

namespace mileage {
namespace {

void make_visits(StudyState& state) {
  if (state.head.made_by == MadeBy::person) {
    take_all_cells(state);
  } else {
    check_outcomes(state);
    place_series(state);
  }
  if (state.plan.aim) aim_at_figures(state);
  make_blocks(state);
}

Summary finished(StudyState& state) {
  look_at_final_precision(state);
  Summary summary = state.summary;
  const YardstickJudge& judge = state.recorder.judge();
  for (const Visit& visit : state.recorder.study().visits) {
    summary.kept += is_evidence(visit, judge);
    summary.failed += visit.status == VisitStatus::failed;
    summary.condemned += visit.block >= 0 && visit.status != VisitStatus::failed;
  }
  summary.condemned -= summary.kept;
  summary.elapsed_s = state.recorder.elapsed_s();
  summary.yardstick_ns = judge.own_fast_ns();
  return summary;
}

}  // namespace

Summary measure_study(const Head& head, const std::vector<Visit>& made, Runner& runner, Clock& clock,
                      const Watch& watch) {
  StudyState state(head, made, runner, clock, watch);
  try {
    make_visits(state);
  } catch (const Runner::Stopped&) {
    state.summary.stopped = true;
  }
  return finished(state);
}

}  // namespace mileage
