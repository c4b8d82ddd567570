#include "measure/loop/visit_recorder.h"

#include <algorithm>

#include <fmt/format.h>

#include "measure/loop/visit_cost.h"
#include "study/visit_check.h"
#include "types/error.h"
#include "types/splitmix.h"

namespace mileage {
namespace {

constexpr double least_limit_s = 10;
constexpr double limit_over_predicted = 20;

/// What a program tells of its visit may be anything.
Visit believed(const VisitRequest& request, Visit visit) {
  if (visit.status == VisitStatus::failed) {
    Visit cleaned = failed_visit(request, visit.failure);
    cleaned.left_behind = visit.left_behind;
    return cleaned;
  }
  const auto fault = fault_in(visit);
  if (fault) return failed_visit(request, Error(*fault).what());
  if (visit.count != request.count)
    return failed_visit(request, fmt::format("the run is of {} entities instead of {}", visit.count, request.count));
  if (visit.arrived != request.arrive)
    return failed_visit(request, fmt::format("{} of them were to come at once, and {} did{}", request.arrive,
                                             visit.arrived, visit.arrived == 0 ? "; rebuild the program" : ""));
  return visit;
}

/// Below 2^53, so that no reader of the file rounds it.
std::uint64_t world_seed(std::uint64_t plan_seed, int block, std::int64_t count) {
  return splitmix64(splitmix64(plan_seed ^ static_cast<std::uint64_t>(block + 1)) ^
                    static_cast<std::uint64_t>(count)) >>
         11;
}

}  // namespace

VisitRecorder::VisitRecorder(const Head& head, const std::vector<Visit>& made, Runner& runner, Clock& clock,
                             const Watch& watch)
    : made_(made),
      runner_(runner),
      clock_(clock),
      watch_(watch),
      judge_(head),
      start_ns_(clock.now_ns()),
      study_{head, {}, {}, {}} {}

double VisitRecorder::elapsed_s() const {
  return made_before_s_ + static_cast<double>(clock_.now_ns() - start_ns_) * 1e-9;
}

double VisitRecorder::visits_s() const {
  double sum = 0;
  for (const Visit& visit : study_.visits) sum += visit.took_s;
  return sum;
}

Visit VisitRecorder::make(const Order& order, Progress& progress) {
  ++progress.done;
  const bool was_made = is_replaying();
  const Visit visit = was_made ? earlier_visit(order) : fresh_visit(order, progress);
  judge_.add(visit);
  study_.visits.push_back(visit);
  if (!was_made && watch_.keep) watch_.keep(visit);
  return visit;
}

double VisitRecorder::limit_s(const Order& order) const {
  return std::min(std::max(least_limit_s, limit_over_predicted * order.predicted_s), longest_visit_s(study_.head.plan));
}

bool VisitRecorder::ran_into_limit(const Order& order, const Visit& visit) const {
  return visit.status == VisitStatus::failed && visit.took_s >= limit_s(order);
}

VisitRequest VisitRecorder::request_for(const Order& order) const {
  const Plan& plan = study_.head.plan;
  VisitRequest request{
      study_.head.scenario.name, order.series, order.count, world_seed(plan.seed, order.block, order.count),
      order.least_frames,        plan.least_ms};
  for (const auto& [name, value] : order.varied.values()) request.series.knobs.set(name, value);
  if (order.intended == VisitStatus::check) request.check_frames = order.check_frames;
  if (order.intended == VisitStatus::placing) request.least_ms = 0;
  request.traced = order.intended == VisitStatus::traced;
  const bool is_whole = order.intended == VisitStatus::kept || order.intended == VisitStatus::traced;
  if (is_whole && plan.arrive < order.count) request.arrive = plan.arrive;
  return request;
}

const Visit& VisitRecorder::earlier_visit(const Order& order) {
  const Visit& visit = made_[next_made_++];
  if (!(visit.series == order.series) || visit.count != order.count || visit.block != order.block)
    throw Error({.problem = "the runs in the file are not the start of this study; measure into another file",
                 .found = fmt::format("{} at {} in block {}", visit.series.variant, visit.count, visit.block),
                 .accepted = fmt::format("{} at {} in block {}", order.series.variant, order.count, order.block)});
  made_before_s_ += visit.took_s;
  runner_.learn(visit);
  return visit;
}

Visit VisitRecorder::fresh_visit(const Order& order, Progress& progress) {
  progress.elapsed_s = elapsed_s();
  progress.series = &order.series;
  progress.count = order.count;
  if (watch_.progress) watch_.progress(progress);

  const double before_s = elapsed_s();
  const VisitRequest request = request_for(order);
  Visit visit = believed(request, runner_.run(request, limit_s(order)));
  visit.took_s = elapsed_s() - before_s;
  visit.series = order.series;
  visit.varied = order.varied;
  visit.block = order.block;
  visit.order = static_cast<int>(study_.visits.size());
  visit.process = runner_.made_by() == MadeBy::game ? 0 : visit.order;  // a game makes all in one
  if (visit.status != VisitStatus::failed) visit.status = order.intended;
  visit.check_frames = order.intended == VisitStatus::check ? order.check_frames : 0;
  if (visit.status == VisitStatus::kept && judge_.condemns(visit)) visit.status = VisitStatus::disturbed;
  return visit;
}

}  // namespace mileage
