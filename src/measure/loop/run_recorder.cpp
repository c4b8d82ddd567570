#include "measure/loop/run_recorder.h"

#include <algorithm>

#include <fmt/format.h>

#include "measure/loop/run_cost.h"
#include "study/run_check.h"
#include "types/error.h"
#include "types/splitmix.h"

namespace mileage {
namespace {

constexpr double min_limit_s = 10;
constexpr double limit_over_predicted = 20;

/// Programs may answer anything.
Run believed(const RunRequest& request, Run run) {
  if (run.status == RunStatus::failed) {
    Run cleaned = failed_run(request, run.failure);
    cleaned.left_behind = run.left_behind;
    return cleaned;
  }
  const auto fault = fault_in(run);
  if (fault) return failed_run(request, Error(*fault).what());
  if (run.count != request.count)
    return failed_run(request, fmt::format("the run is of {} entities instead of {}", run.count, request.count));
  if (run.arrived != request.arrive)
    return failed_run(request, fmt::format("{} of them were to come at once, and {} did{}", request.arrive, run.arrived,
                                           run.arrived == 0 ? "; rebuild the program" : ""));
  return run;
}

/// Below 2^53, exact in JSON.
std::uint64_t world_seed(std::uint64_t plan_seed, int block, std::int64_t count) {
  return splitmix64(splitmix64(plan_seed ^ static_cast<std::uint64_t>(block + 1)) ^
                    static_cast<std::uint64_t>(count)) >>
         11;
}

}  // namespace

RunRecorder::RunRecorder(const Head& head, const std::vector<Run>& made, Runner& runner, Clock& clock,
                         const Watch& watch)
    : made_(made),
      runner_(runner),
      clock_(clock),
      watch_(watch),
      judge_(head),
      start_ns_(clock.now_ns()),
      study_{head, {}, {}, {}} {}

double RunRecorder::elapsed_s() const {
  return made_before_s_ + static_cast<double>(clock_.now_ns() - start_ns_) * 1e-9;
}

double RunRecorder::runs_s() const {
  double sum = 0;
  for (const Run& run : study_.runs) sum += run.took_s;
  return sum;
}

Run RunRecorder::make(const Order& order, Progress& progress) {
  ++progress.done;
  const bool was_made = is_replaying();
  const Run run = was_made ? earlier_run(order) : fresh_run(order, progress);
  judge_.add(run);
  study_.runs.push_back(run);
  if (!was_made && watch_.keep) watch_.keep(run);
  return run;
}

double RunRecorder::limit_s(const Order& order) const {
  return std::min(std::max(min_limit_s, limit_over_predicted * order.predicted_s), longest_run_s(study_.head.plan));
}

bool RunRecorder::ran_into_limit(const Order& order, const Run& run) const {
  return run.status == RunStatus::failed && run.took_s >= limit_s(order);
}

RunRequest RunRecorder::request_for(const Order& order) const {
  const Plan& plan = study_.head.plan;
  RunRequest request{
      study_.head.scenario.name, order.series, order.count, world_seed(plan.seed, order.block, order.count),
      order.min_frames,          plan.min_ms};
  for (const auto& [name, value] : order.varied.values()) request.series.knobs.set(name, value);
  if (order.intended == RunStatus::check) request.check_frames = order.check_frames;
  if (order.intended == RunStatus::range_finding) request.min_ms = 0;
  request.traced = order.intended == RunStatus::traced;
  const bool is_whole = order.intended == RunStatus::kept || order.intended == RunStatus::traced;
  if (is_whole && plan.arrive < order.count) request.arrive = plan.arrive;
  return request;
}

const Run& RunRecorder::earlier_run(const Order& order) {
  const Run& run = made_[next_made_++];
  if (!(run.series == order.series) || run.count != order.count || run.block != order.block)
    throw Error({.problem = "the runs in the file are not the start of this study; measure into another file",
                 .found = fmt::format("{} at {} in block {}", run.series.variant, run.count, run.block),
                 .accepted = fmt::format("{} at {} in block {}", order.series.variant, order.count, order.block)});
  made_before_s_ += run.took_s;
  runner_.learn(run);
  return run;
}

Run RunRecorder::fresh_run(const Order& order, Progress& progress) {
  progress.elapsed_s = elapsed_s();
  progress.series = &order.series;
  progress.count = order.count;
  if (watch_.progress) watch_.progress(progress);

  const double before_s = elapsed_s();
  const RunRequest request = request_for(order);
  Run run = believed(request, runner_.run(request, limit_s(order)));
  run.took_s = elapsed_s() - before_s;
  run.series = order.series;
  run.varied = order.varied;
  run.block = order.block;
  run.order = static_cast<int>(study_.runs.size());
  run.process = runner_.made_by() == MadeBy::game ? 0 : run.order;  // A game makes all runs in one process.
  if (run.status != RunStatus::failed) run.status = order.intended;
  run.check_frames = order.intended == RunStatus::check ? order.check_frames : 0;
  if (run.status == RunStatus::kept && judge_.condemns(run)) run.status = RunStatus::disturbed;
  return run;
}

}  // namespace mileage
