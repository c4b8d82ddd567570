#include "measure/in_process/run_bracket.h"

#include <algorithm>
#include <cmath>

#include "types/order_statistics.h"

namespace mileage {
namespace {

/// Reading around frames. In simulations of speeds that flip every few milliseconds, 1 ms gave 66 to 87 % coverage, 5
/// ms 84 to 95 %, 20 ms full coverage.
constexpr double reading_ns = 20e6;
/// Ends a reading with a clock that does not advance.
constexpr int max_in_a_reading = 4000;
/// A probe takes 1.5 % of it at full speed.
constexpr double frames_for_a_probe_ns = 1e6;
/// With threads to wake, a probe takes four times as long.
constexpr double frames_for_a_probe_of_many_ns = 4e6;
/// Frame time per probe, in probes: on a slow machine probes slow down more than frames.
constexpr double frames_for_a_probe = 55;
constexpr int probes_to_tell_their_length = 3;
constexpr int max_between_frames = 16;

}  // namespace

RunBracket::RunBracket(const RunRequest& request, const Instruments& instruments)
    : request_(request),
      instruments_(instruments),
      load_before_(instruments.load != nullptr ? instruments.load() : LoadReading{}) {}

void RunBracket::before_frames() {
  if (is_probed()) probe_for_a_while(Probes::one);
}

void RunBracket::after_frames() {
  if (is_probed()) probe_for_a_while(Probes::other);
}

void RunBracket::probe_for_a_while(Probes::Half half) {
  probed_by_ = ProbedBy::time;
  double passed_ns = 0;
  for (int probe = 0; probe < max_in_a_reading && passed_ns < reading_ns; ++probe) {
    const double ns = instruments_.yardstick->probe_ns();
    probes_.add(half, ns);
    passed_ns += ns;
  }
}

void RunBracket::probe_on(int cores) {
  cores_ = cores;
  if (is_probed()) instruments_.yardstick->spread_over(cores);
}

double RunBracket::probe_takes_ns() const {
  double shortest_ns = HUGE_VAL;
  for (int probe = 0; probe < probes_to_tell_their_length; ++probe) {
    const std::int64_t start_ns = instruments_.clock->now_ns();
    instruments_.yardstick->probe_ns();
    shortest_ns = std::min(shortest_ns, static_cast<double>(instruments_.clock->now_ns() - start_ns));
  }
  return shortest_ns;
}

void RunBracket::expect_samples(double sample_ns) {
  if (!is_probed()) return;
  const double min_ns = cores_ > 1 ? frames_for_a_probe_of_many_ns : frames_for_a_probe_ns;
  const double every_ns = std::max(min_ns, frames_for_a_probe * probe_takes_ns());
  const double samples = every_ns / std::max(sample_ns, 1.0);
  samples_for_a_probe_ = static_cast<int>(std::ceil(samples));
  probes_at_once_ = static_cast<int>(std::clamp<double>(1 / samples, 1, max_between_frames));
}

bool RunBracket::between_frames() {
  if (!is_probed() || ++since_probe_ < samples_for_a_probe_) return false;
  probe_next_half(probes_at_once_);
  since_probe_ = 0;
  return true;
}

void RunBracket::after_last_frame() {
  while (is_probed() && !probes_.are_in_both_halves()) probe_next_half(1);
}

void RunBracket::probe_next_half(int probes) {
  const SpentReading before = instruments_.spent_now();
  for (int probe = 0; probe < probes; ++probe) probes_.add(next_half_, instruments_.yardstick->probe_ns());
  spent_ += instruments_.spent_now() - before;
  next_half_ = next_half_ == Probes::one ? Probes::other : Probes::one;
}

void RunBracket::tell(Run& run) const {
  if (instruments_.load != nullptr) run.load = load_between(load_before_, instruments_.load());
  if (run.yardstick) return;
  const double frame_ns = run.samples_ns.empty() ? 0 : median({run.samples_ns.begin(), run.samples_ns.end()});
  run.yardstick = probes_.reading(probed_by_, frame_ns, cores_);
}

}  // namespace mileage
