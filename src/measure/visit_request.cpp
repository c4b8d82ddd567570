#include "measure/visit_request.h"

#include <sys/resource.h>

#include <algorithm>
#include <cmath>
#include <exception>
#include <memory>
#include <utility>

#include <fmt/format.h>

#include "analysis/statistics.h"
#include "measure/frame_meter.h"
#include "measure/settling.h"
#include "types/error.h"

namespace mileage {
namespace {

Visit blank_visit(const VisitRequest& request) {
  Visit visit;
  visit.series = request.series;
  visit.count = request.count;
  visit.seed = request.seed;
  return visit;
}

std::unique_ptr<Variant> set_up(const VisitRequest& request, const Catalogue& catalogue) {
  const Scenario* scenario = catalogue.find(request.scenario);
  const Factory* factory = catalogue.factory(request.scenario, request.series.variant);
  if (scenario == nullptr || factory == nullptr)
    throw Error({.kind = FaultKind::variant, .problem = "this program has no such variant",
                 .found = request.scenario + "/" + request.series.variant});
  auto variant = (*factory)({request.count, request.seed, scenario->step_s, request.series.knobs});
  if (!variant) throw Error({.kind = FaultKind::variant, .problem = "the factory returned no variant"});
  return variant;
}

/// Runs single frames until their time has settled.
std::vector<std::int64_t> warm_up(FrameMeter& meter) {
  std::vector<std::int64_t> times;
  meter.start();
  while (!has_settled(times)) times.push_back(meter.sample(1));
  return times;
}

int frames_per_sample(const std::vector<std::int64_t>& warmup_ns, Clock& clock) {
  const double shortest = readings_per_sample * reading_cost_ns(clock);
  const double frame = std::max(1.0, median({warmup_ns.begin(), warmup_ns.end()}));
  return std::max(1, static_cast<int>(std::ceil(shortest / frame)));
}

void measure_frames(FrameMeter& meter, const VisitRequest& request, Visit& visit) {
  const double least_ns = request.least_ms * 1e6;
  double measured_ns = 0;
  visit.samples_ns.reserve(most_samples);
  meter.start();
  while (visit.samples_ns.size() < most_samples &&
         (visit.measured_frames() < request.least_frames || measured_ns < least_ns)) {
    visit.samples_ns.push_back(std::max<std::int64_t>(1, meter.sample(visit.frames_per_sample)));
    measured_ns += static_cast<double>(visit.samples_ns.back());
  }
  visit.phases_ms = meter.phases_ms();
  visit.counters = meter.counters();
}

double peak_memory_bytes() {
  rusage usage{};
  ::getrusage(RUSAGE_SELF, &usage);
  return static_cast<double>(usage.ru_maxrss) * 1024;
}

void run(const VisitRequest& request, const Catalogue& catalogue, Clock& clock, Visit& visit) {
  const std::int64_t start = clock.now_ns();
  const auto variant = set_up(request, catalogue);
  visit.setup_ms = static_cast<double>(clock.now_ns() - start) * 1e-6;

  FrameMeter meter(*variant, clock);
  visit.warmup_ns = warm_up(meter);
  visit.frames_per_sample = frames_per_sample(visit.warmup_ns, clock);
  measure_frames(meter, request, visit);

  visit.alive = variant->alive();
  visit.outcome = variant->outcome();
  visit.peak_memory_bytes = peak_memory_bytes();
}

}  // namespace

Visit failed_visit(const VisitRequest& request, std::string reason) {
  Visit visit = blank_visit(request);
  visit.status = VisitStatus::failed;
  visit.failure = std::move(reason);
  return visit;
}

Visit make_visit(const VisitRequest& request, const Catalogue& catalogue, Clock& clock) {
  Visit visit = blank_visit(request);
  try {
    run(request, catalogue, clock, visit);
    return visit;
  } catch (const Error& error) {
    return failed_visit(request, error.what());
  } catch (const std::exception& error) {
    return failed_visit(request, fmt::format("the variant threw: {}", error.what()));
  } catch (...) {
    return failed_visit(request, "the variant threw something that is no exception");
  }
}

}  // namespace mileage
