#include "measure/loop/study_state.h"

#include <algorithm>
#include <cmath>
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
      known(plan.series.size()) {}

bool StudyState::is_stop_asked() {
  if (watch.stop && watch.stop()) summary.stopped = true;
  return summary.stopped;
}

bool StudyState::may_run(std::size_t series, std::int64_t count) const {
  return !is_excluded[series] && count < ends[series];
}

bool StudyState::may_be_tried(std::size_t series, double count) const {
  return may_run(series, std::llround(count)) && (plan.max_count == 0 || count <= static_cast<double>(plan.max_count));
}

Run StudyState::run(const Order& order, double foreseen_s, Progress& progress) {
  Run run = recorder.make(order, progress);
  const bool was_unforeseen = far_beyond_foreseen * foreseen_s <= recorder.limit_s(order);
  if (recorder.ran_into_limit(order, run) && was_unforeseen && has_spent_less_than(1)) {
    run = recorder.make(order, progress);
    summary.made_again += run.status != RunStatus::failed;
  }
  if (recorder.ran_into_limit(order, run)) end_at(index_of(order.series), order.count);
  if (run.status != RunStatus::failed && !run.samples_ns.empty()) note(run);
  return run;
}

void StudyState::note(const Run& run) {
  const std::size_t series = index_of(run.series);
  known[series].add(run.count, run_cost_of(run), fast_frame_ms(recorder.judge(), run));
  if (is_of_a_block(run)) ++runs_of[{series, run.count}];
  std::vector<ModelRow>& into = is_of_a_block(run) ? rows : range_rows;
  if (run.status != RunStatus::traced) into.push_back(row_of(run, static_cast<int>(series), head, kinds));
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

bool StudyState::is_out_of_time() const {
  return plan.time_s > 0 && !recorder.is_replaying() && recorder.elapsed_s() > plan.time_s;
}

std::size_t StudyState::index_of(const Series& series) const {
  return static_cast<std::size_t>(std::find(plan.series.begin(), plan.series.end(), series) - plan.series.begin());
}

}  // namespace mileage
