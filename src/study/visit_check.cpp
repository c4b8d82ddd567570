#include "study/visit_check.h"

#include <cmath>

#include <fmt/format.h>

namespace mileage {
namespace {

constexpr std::int64_t most_count = 1'000'000'000'000'000;
/// Some thirty years in one sample.
constexpr std::int64_t most_sample_ns = 1'000'000'000'000'000'000;

/// Keeps the first fault that is seen.
class Faults {
 public:
  void wrong(std::string field, std::string problem, std::string found, std::string accepted) {
    if (!first_)
      first_ = Fault{.field = std::move(field),
                     .problem = std::move(problem),
                     .found = std::move(found),
                     .accepted = std::move(accepted)};
  }
  void number(const std::string& field, double value, double least) {
    if (!std::isfinite(value) || value < least)
      wrong(field, std::isfinite(value) ? "out of range" : "not a number", fmt::format("{}", value),
            least == 0 ? "0 or above" : "a number");
  }
  void number(const std::string& field, const std::optional<double>& value, double least) {
    if (value) number(field, *value, least);
  }
  void whole(const std::string& field, std::int64_t value, std::int64_t least, std::int64_t most) {
    if (value < least || value > most)
      wrong(field, "out of range", fmt::format("{}", value), fmt::format("a whole number from {} to {}", least, most));
  }
  std::optional<Fault> first() const { return first_; }

 private:
  std::optional<Fault> first_;
};

constexpr double any = -HUGE_VAL;

void check_frames(const Visit& visit, Faults& faults) {
  faults.number("setup_ms", visit.setup_ms, 0);
  faults.whole("frames_per_sample", visit.frames_per_sample, 1, 1'000'000'000);
  for (const auto& [field, samples] : {std::pair{"warmup_ns", &visit.warmup_ns}, {"samples_ns", &visit.samples_ns}})
    for (const std::int64_t sample : *samples)
      if (sample < 1 || sample > most_sample_ns)
        faults.wrong(field, sample < 1 ? "a sample without time in it" : "out of range", fmt::format("{}", sample),
                     "times above 0 ns");
  for (const auto& [name, sum] : visit.phases_ms) faults.number("phase:" + name, sum, 0);
  for (const auto& [name, sum] : visit.counters) faults.number("counter:" + name, sum, any);
  faults.whole("alive", visit.alive, 0, most_count);
}

void check_resources(const Visit& visit, Faults& faults) {
  faults.number("thread_busy_ms", visit.thread_busy_ms,
                any);  // of frames between which other memory was walked it may be below zero
  faults.number("processor_ms", visit.processor_ms, any);
  faults.number("whole_processor_ms", visit.whole_processor_ms, 0);
  faults.number("walked_ms", visit.walked_ms, 0);
  faults.number("read_share", visit.read_share, 0);
  for (const auto& bytes : {visit.memory.empty_bytes, visit.memory.built_bytes, visit.memory.settled_bytes,
                            visit.memory.middle_bytes, visit.memory.end_bytes, visit.memory.peak_bytes})
    faults.number("memory_bytes", bytes, 0);
  if (!visit.yardstick) return;
  for (const double ns : {visit.yardstick->before.arithmetic_ns, visit.yardstick->before.memory_ns,
                          visit.yardstick->after.arithmetic_ns, visit.yardstick->after.memory_ns})
    faults.number("yardstick", ns, 0);
}

}  // namespace

std::optional<Fault> fault_in(const Visit& visit) {
  Faults faults;
  faults.whole("count", visit.count, 1, most_count);
  faults.whole("block", visit.block, -1, 1'000'000'000);
  faults.whole("order", visit.order, 0, 1'000'000'000);
  faults.whole("left_behind", visit.left_behind, 0, 1'000'000'000);
  faults.number("cold_bytes", visit.series.cold_bytes, 0);
  faults.number("took_s", visit.took_s, any);
  faults.number("waited_s", visit.waited_s, 0);
  if (visit.load) faults.number("busy_cores", visit.load->busy_cores, any);
  if (visit.load) faults.number("stolen_share", visit.load->stolen_share, any);
  for (const auto& [name, value] : visit.series.knobs.values())
    if (const auto* number = std::get_if<double>(&value)) faults.number("knob " + name, *number, any);
  if (visit.status == VisitStatus::failed) return faults.first();
  check_frames(visit, faults);
  check_resources(visit, faults);
  for (const Quantity& one : visit.outcome.quantities()) {
    faults.number("tolerance of " + one.name, one.tolerance, 0);
    faults.number("scale of " + one.name, one.scale, 0);
  }
  return faults.first();
}

}  // namespace mileage
