#include "measure/in_process/make_run.h"

#include <algorithm>
#include <cmath>
#include <exception>
#include <functional>
#include <memory>
#include <numeric>
#include <set>
#include <thread>
#include <utility>

#include <fmt/format.h>

#include "types/order_statistics.h"
#include "measure/machine/cold_walk.h"
#include "measure/in_process/frame_meter.h"
#include "measure/in_process/settling.h"
#include "measure/in_process/speed_check.h"
#include "measure/in_process/wait_watch.h"
#include "types/error.h"

namespace mileage {
namespace {

/// Busy share above which a core counts as used.
constexpr double share_of_a_core_used = 0.25;

std::unique_ptr<Variant> set_up(const RunRequest& request, const Catalogue& catalogue) {
  const Scenario* scenario = catalogue.find(request.scenario);
  const Factory* factory = catalogue.factory(request.scenario, request.series.variant);
  if (scenario == nullptr || factory == nullptr)
    throw Error({.kind = FaultKind::variant,
                 .problem = "this program has no such variant",
                 .found = request.series.variant + " of " + request.scenario});
  auto variant = (*factory)({request.count - request.arrive, request.seed, scenario->step_s, request.series.knobs,
                             request.arrive, request.series.skipped_phase});
  if (!variant) throw Error({.kind = FaultKind::variant, .problem = "the factory returned no variant"});
  return variant;
}

void start_driver(const RunRequest& request, const Catalogue& catalogue, Clock& clock, Run& run) {
  const Starter* starter = catalogue.starter(request.scenario, request.series.variant);
  if (starter == nullptr) return;
  const double before = resident_bytes();
  const std::int64_t start = clock.now_ns();
  (*starter)();
  run.start_ms = static_cast<double>(clock.now_ns() - start) * 1e-6;
  const double after = resident_bytes();
  if (before > 0 && after > 0) run.memory.start_bytes = after - before;
}

/// Nothing for a warm series.
std::unique_ptr<ColdWalk> walk_for(const Series& series, Clock& clock) {
  return series.is_cold() ? std::make_unique<ColdWalk>(static_cast<std::size_t>(series.cold_bytes), clock) : nullptr;
}

/// Single frames until they settle.
std::vector<std::int64_t> warm_up(FrameMeter& meter) {
  std::vector<std::int64_t> times;
  meter.start();
  while (!is_warmed_up(times)) times.push_back(meter.sample(1));
  return times;
}

/// Adds entities in one frame and runs until frames settle again.
std::vector<std::int64_t> let_arrive(FrameMeter& meter, std::int64_t arriving) {
  meter.start();
  std::vector<std::int64_t> times{std::max<std::int64_t>(1, meter.sample(1, arriving))};
  while (!is_warmed_up(times)) times.push_back(meter.sample(1));
  return times;
}

double frame_after_warmup_ns(const Run& run) {
  return std::max(1.0, median({run.warmup_ns.begin(), run.warmup_ns.end()}));
}

int frames_per_sample(double frame_ns, Clock& clock) {
  const double shortest = readings_per_sample * reading_cost_ns(clock);
  return std::max(1, static_cast<int>(std::ceil(shortest / frame_ns)));
}

/// Cold frames are single, and the walk between them takes longer: their number is enough.
bool has_enough(const RunRequest& request, std::int64_t frames, double measured_ms) {
  return frames >= request.min_frames && (measured_ms >= request.min_ms || request.series.is_cold());
}

/// Resident memory before the first frame and after 2, 4, 8 ... samples, so that some reading is near the middle of a
/// run of unknown length.
class MemoryWatch {
 public:
  explicit MemoryWatch(FrameMeter& meter) : meter_(meter), warmed_up_bytes_(resident_bytes()) {}

  void after_sample(std::size_t samples) {
    if (samples != next_) return;
    next_ *= 2;
    before_ = last_;
    last_ = {samples, resident_bytes()};
    meter_.pass_over();
  }
  void tell(std::size_t samples, Memory& memory) const {
    memory.warmed_up_bytes = warmed_up_bytes_;
    memory.end_bytes = resident_bytes();
    const Reading& middle = 4 * last_.samples <= 3 * samples ? last_ : before_;
    if (middle.samples > 0) memory.middle_bytes = middle.bytes;
  }

 private:
  struct Reading {
    std::size_t samples = 0;
    double bytes = 0;
  };
  FrameMeter& meter_;
  double warmed_up_bytes_;
  std::size_t next_ = 2;
  Reading before_, last_;
};

void measure_frames(FrameMeter& meter, const RunRequest& request, RunBracket& bracket, WaitWatch& waits, Run& run) {
  double measured_ms = 0;
  run.samples_ns.reserve(max_samples);
  MemoryWatch memory(meter);
  meter.start();
  while (run.samples_ns.size() < max_samples && !has_enough(request, run.measured_frames(), measured_ms)) {
    waits.before_sample();
    run.samples_ns.push_back(std::max<std::int64_t>(1, meter.sample(run.frames_per_sample)));
    measured_ms += static_cast<double>(run.samples_ns.back()) * 1e-6;
    waits.after_sample(run);
    if (bracket.between_frames()) meter.pass_over();
    memory.after_sample(run.samples_ns.size());
  }
  bracket.after_last_frame();
  waits.tell(run);
  memory.tell(run.samples_ns.size(), run.memory);
  run.phases_ms = meter.phases_ms();
  run.inner_phases = meter.inner_phases();
  run.work = meter.work();
  run.trace = meter.traced();
  run.counters = meter.counters();
}

void check_outcome(const Run& run) {
  for (const Quantity& one : run.outcome.quantities())
    if (!std::isfinite(one.value))
      throw Error({.kind = FaultKind::variant, .problem = "the outcome states no number for " + one.name});
}

void check_alive(const Run& run) {
  if (run.alive != run.count)
    throw Error(
        {.kind = FaultKind::variant,
         .problem = fmt::format("{} entities were asked for, and {} are alive at the end{}", run.count, run.alive,
                                run.arrived == run.count - run.alive && run.arrived > 0
                                    ? "; a variant lets in as many as Frame::arriving() says"
                                    : "")});
}

/// A floor is meant to do less.
void check_speed(const Run& run, const VariantFacts& facts) {
  if (run.series.is_floor()) return;
  if (const auto reason = too_fast_to_be_true(run, facts))
    throw Error({.kind = FaultKind::variant, .problem = *reason});
}

void run_check(Variant& variant, const RunRequest& request, Clock& clock) {
  FrameMeter meter(variant, clock);
  meter.start();
  meter.sample(request.check_frames);
}

/// Counters set outside frames apply to each frame.
void count_untimed(const Variant& variant, FrameMeter& meter, Run& run) {
  meter.start();
  Frame frame(meter);
  variant.count_untimed(frame);
  for (const auto& [name, amount] : meter.counters())
    run.counters[name] += amount * static_cast<double>(run.measured_frames());
}

/// Hardware counters; not for cold frames, whose walk would be counted. Includes the yardstick, at most 2 % of the
/// time. A variant's own counter of the same name wins.
void count_in_hardware(const HardwareMeter* hardware, bool is_cold, Run& run) {
  if (hardware == nullptr || is_cold) return;
  for (const auto& [name, amount] : hardware->since_begin()) run.counters.emplace(name, amount);
}

/// CPU times of the measured frames, without the walk, the yardstick and reading waits.
void measure_with_processor_times(FrameMeter& meter, const ColdWalk* walk, const RunRequest& request,
                                  RunBracket& bracket, WaitWatch& waits, HardwareMeter* hardware, Run& run) {
  const auto aside = [&] {
    SpentReading spent = walk != nullptr ? walk->spent() : SpentReading{};
    spent += bracket.spent();
    return spent += waits.spent();
  };
  const SpentReading aside_before = aside();
  if (hardware != nullptr) hardware->begin();
  const SpentReading before = read_spent();
  measure_frames(meter, request, bracket, waits, run);
  const SpentReading on_frames = read_spent() - before - (aside() - aside_before);
  run.processor_ms = static_cast<double>(on_frames.processor_ns) * 1e-6;
  run.thread_busy_ms = static_cast<double>(on_frames.thread_ns) * 1e-6;
  run.kernel_ms = std::clamp(static_cast<double>(on_frames.kernel_ns) * 1e-6, 0.0, *run.thread_busy_ms);
  run.page_faults = static_cast<double>(on_frames.page_faults);
  run.voluntary_switches = static_cast<double>(on_frames.voluntary_switches);
  count_in_hardware(hardware, walk != nullptr, run);
  if (walk != nullptr) run.walked_ms = static_cast<double>(walk->wall_ns()) * 1e-6;
}

/// From the CPU time of the process; 1 if unknown.
int cores_used(const Run& run, const ColdWalk* walk, std::int64_t spent_ns) {
  if (walk != nullptr) spent_ns -= walk->spent().processor_ns;
  const double frames_ns = std::accumulate(run.warmup_ns.begin(), run.warmup_ns.end(), 0.0, std::plus<double>());
  const double cores = std::ceil(static_cast<double>(spent_ns) / std::max(frames_ns, 1.0) - share_of_a_core_used);
  return static_cast<int>(std::clamp<double>(cores, 1, std::max(1U, std::thread::hardware_concurrency())));
}

void run_measured(Variant& variant, const RunRequest& request, const Instruments& instruments, RunBracket& bracket,
                  Run& run) {
  Clock& clock = *instruments.clock;
  const auto walk = walk_for(request.series, clock);
  FrameMeter meter(variant, clock, walk.get());
  const SpentReading before = instruments.spent_now();
  run.warmup_ns = warm_up(meter);
  const int cores = cores_used(run, walk.get(), (instruments.spent_now() - before).processor_ns);
  if (request.arrive > 0) {
    run.warmup_ns = let_arrive(meter, request.arrive);
    run.arrived = request.arrive;
  }
  const double frame_ns = frame_after_warmup_ns(run);
  if (!request.series.is_cold() && !request.traced) run.frames_per_sample = frames_per_sample(frame_ns, clock);
  const double sample_ns = frame_ns * run.frames_per_sample;
  meter.give_up_short_batches();
  if (request.traced) meter.trace();
  // Before the yardstick has threads, whose waiting is no frame's.
  WaitWatch waits(meter, sample_ns, instruments.is_real() ? cores : 0);
  bracket.probe_on(cores);
  bracket.expect_samples(sample_ns);
  measure_with_processor_times(meter, walk.get(), request, bracket, waits, instruments.hardware, run);
  count_untimed(variant, meter, run);
}

void set_up_and_run(const RunRequest& request, const Catalogue& catalogue, const Instruments& instruments, Run& run) {
  prepare_once(catalogue, request.scenario);
  RunBracket bracket(request, instruments);
  Clock& clock = *instruments.clock;
  start_driver(request, catalogue, clock, run);
  run.memory.empty_bytes = resident_bytes();
  const std::int64_t start = clock.now_ns();
  const auto variant = set_up(request, catalogue);
  run.setup_ms = static_cast<double>(clock.now_ns() - start) * 1e-6;
  run.memory.built_bytes = resident_bytes();

  if (request.check_frames > 0)
    run_check(*variant, request, clock);
  else
    run_measured(*variant, request, instruments, bracket, run);

  run.float_mode = float_mode();
  bracket.tell(run);
  run.memory.peak_bytes = peak_resident_bytes();
  run.alive = variant->alive();
  run.outcome = variant->outcome();
  check_outcome(run);
  check_alive(run);
  check_speed(run, *catalogue.find(request.scenario)->find(request.series.variant));
}

}  // namespace

void prepare_once(const Catalogue& catalogue, const std::string& scenario) {
  static std::set<std::string> prepared;
  const Preparation* preparation = catalogue.preparation(scenario);
  if (preparation == nullptr || prepared.count(scenario) > 0) return;
  (*preparation)();
  prepared.insert(scenario);
}

Run make_run(const RunRequest& request, const Catalogue& catalogue, const Instruments& instruments) {
  Run run = blank_run(request);
  try {
    set_up_and_run(request, catalogue, instruments, run);
    return run;
  } catch (const Error& error) {
    return failed_run(request, error.what());
  } catch (const std::exception& error) {
    return failed_run(request, fmt::format("the variant threw: {}", error.what()));
  } catch (...) {
    return failed_run(request, "the variant threw something that is no exception");
  }
}

}  // namespace mileage
