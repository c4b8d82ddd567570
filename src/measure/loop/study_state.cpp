#include "measure/loop/study_state.h"

#include <algorithm>
#include <limits>

namespace mileage {
namespace {

/// Ratio to the predicted time: the machine stood still.
constexpr double far_beyond_foreseen = 4;

}  // namespace

StudyState::StudyState(const Head& of_study, const std::vector<Run>& made, Runner& runner, Clock& clock,
                       const Watch& watched_by)
    : head(of_study),
      plan(of_study.plan),
      watch(watched_by),
      recorder(of_study, made, runner, clock, watched_by),
      is_excluded(plan.series.size(), false),
      ends(plan.series.size(), std::numeric_limits<std::int64_t>::max()),
      costs(plan.series.size()),
      run_costs(plan.series.size()) {}

bool StudyState::is_stop_asked() {
  if (watch.stop && watch.stop()) summary.stopped = true;
  return summary.stopped;
}

bool StudyState::may_run(std::size_t series, std::int64_t count) const {
  return !is_excluded[series] && count < ends[series];
}

Run StudyState::run(const Order& order, double foreseen_s, Progress& progress) {
  Run run = recorder.make(order, progress);
  const bool was_unforeseen = far_beyond_foreseen * foreseen_s <= recorder.limit_s(order);
  if (recorder.ran_into_limit(order, run) && was_unforeseen && has_spent_less_than(1)) {
    run = recorder.make(order, progress);
    summary.made_again += run.status != RunStatus::failed;
  }
  if (recorder.ran_into_limit(order, run)) end_at(index_of(order.series), order.count);
  return run;
}

void StudyState::end_at(std::size_t series, std::int64_t count) {
  ends[series] = std::min(ends[series], count);
  for (const std::int64_t planned : plan.counts)
    if (planned >= count) leave_out(series, planned, LeftOutWhy::over_limit);
  std::erase_if(ladder, [&](const Cell& cell) { return cell.series == series && cell.count >= count; });
}

bool StudyState::has_spent_less_than(double share) const {
  return plan.time_s <= 0 || recorder.runs_s() < share * plan.time_s;
}

void StudyState::drop_excluded_aims() {
  std::erase_if(aims,
                [&](const Aim& aim) { return is_excluded[aim.series] || (aim.other && is_excluded[*aim.other]); });
}

std::size_t StudyState::index_of(const Series& series) const {
  return static_cast<std::size_t>(std::find(plan.series.begin(), plan.series.end(), series) - plan.series.begin());
}

}  // namespace mileage
