// Overhead of measuring, as ratios within this run, from paired medians in random order:
//   1. empty frame: wanted at most 2 clock readings     2. phase mark: at most 3
//   3. measured frame / bare loop: within 1 %, columns of 10,000 lanterns
//   4. frames with probes between them / without: within 1 % from 20 us   5. probes: at most 2 % of the time
// Exit code 1 on a miss.
#include <cstdio>
#include <memory>
#include <vector>

#include <fmt/format.h>

#include "analysis/statistics/statistics.h"
#include "support/default_set_up.h"
#include "festival/drift/drift_variants.h"
#include "in_pairs.h"
#include "measure/machine/clock.h"
#include "measure/machine/yardstick.h"
#include "measure/in_process/frame_meter.h"
#include "measure/in_process/run_bracket.h"

namespace {

using namespace mileage;

constexpr int pairs = 3000;

class EmptyVariant : public Variant {
 public:
  void run_frame(Frame&) override {}
  std::int64_t alive() const override { return 0; }
  Outcome outcome() const override { return {}; }
};

bool report(const char* question, const PairedRatio& found, const char* unit, bool holds, const char* wanted) {
  fmt::print("{}\n  {:.4g} {} (95 % {:.4g} to {:.4g}, {} pairs); wanted: {}; {}\n", question, found.ratio, unit,
             *found.interval.low, *found.interval.high, pairs, wanted, holds ? "holds" : "MISSED");
  return holds;
}

constexpr int runs = 200;

double readings_ns(Clock& clock) {
  std::vector<std::int64_t> samples(runs);
  const std::int64_t start = clock.now_ns();
  for (std::int64_t& sample : samples) sample = clock.now_ns();
  return static_cast<double>(clock.now_ns() - start);
}

bool empty_frame(Clock& clock) {
  EmptyVariant variant;
  FrameMeter meter(variant, clock);
  std::vector<std::int64_t> samples(runs);
  const auto frames = [&] {
    meter.start();
    const std::int64_t start = clock.now_ns();
    for (std::int64_t& sample : samples) sample = meter.sample(1);
    return static_cast<double>(clock.now_ns() - start);
  };
  const PairedRatio found = in_pairs(pairs, frames, [&] { return readings_ns(clock); });
  return report("An empty frame costs", found, "clock readings", found.surely_within(0, 2), "at most 2");
}

bool phase_mark(Clock& clock) {
  EmptyVariant variant;
  FrameMeter meter(variant, clock);
  Frame frame(meter);
  const auto marks = [&] {
    const std::int64_t start = clock.now_ns();
    for (int i = 0; i < runs; ++i) const auto phase = frame.phase(i % 2 == 0 ? "gather" : "update");
    return static_cast<double>(clock.now_ns() - start);
  };
  const PairedRatio found = in_pairs(pairs, marks, [&] { return readings_ns(clock); });
  return report("A phase mark, begin and end, costs", found, "clock readings", found.surely_within(0, 3), "at most 3");
}

bool frame_time_seen(Clock& clock) {
  constexpr int frames = 4;
  const auto variant = festival::make_drift_columns(drift_set_up(10'000));
  FrameMeter meter(*variant, clock);
  FrameMeter silent(*variant, clock);
  Frame frame(silent);
  const auto seen = [&] {
    meter.start();
    double sum = 0;
    for (int i = 0; i < frames; ++i) sum += static_cast<double>(meter.sample(1));
    return sum / frames;
  };
  const auto bare = [&] {
    const std::int64_t start = clock.now_ns();
    for (int i = 0; i < frames; ++i) variant->run_frame(frame);
    return static_cast<double>(clock.now_ns() - start) / frames;
  };
  const PairedRatio found = in_pairs(pairs, seen, bare);
  return report("The tool sees, of the time that a bare loop takes for a frame of 10,000 columns,", found, "of it",
                found.surely_within(0.99, 1.01), "0.99 to 1.01");
}

/// With probes between frames, or without.
class ProbedFrames {
 public:
  ProbedFrames(Variant& variant, Clock& clock, int cores)
      : clock_(clock), yardstick_(clock), meter_(variant, clock), cores_(cores) {
    yardstick_.spread_over(cores);
  }

  /// Over 4 ms of frames (16 on several cores), at least two.
  double run(bool probed) {
    struct SameThreads : Yardstick {  // A run starts them once.
      explicit SameThreads(Yardstick& yardstick) : yardstick(yardstick) {}
      double probe_ns() override { return yardstick.probe_ns(); }
      Yardstick& yardstick;
    } same_threads(yardstick_);
    RunBracket bracket(request_, {&clock_, &same_threads, nullptr});
    bracket.probe_on(cores_);
    double sum_ns = 0;
    int frames = 0;
    meter_.start();
    bracket.expect_samples(static_cast<double>(meter_.sample(1)));
    meter_.pass_over();
    for (; frames < 2 || sum_ns < (cores_ > 1 ? 16e6 : 4e6); ++frames) {
      sum_ns += static_cast<double>(meter_.sample(1));
      if (probed) probe(bracket);
    }
    if (probed) frames_ns += sum_ns;
    return sum_ns / frames;
  }

  double probes_ns = 0;
  double frames_ns = 0;

 private:
  /// Includes waking threads.
  void probe(RunBracket& bracket) {
    const std::int64_t start_ns = clock_.now_ns();
    if (!bracket.between_frames()) return;
    probes_ns += static_cast<double>(clock_.now_ns() - start_ns);
    meter_.pass_over();
  }

  Clock& clock_;
  MachineYardstick yardstick_;
  FrameMeter meter_;
  int cores_;
  RunRequest request_;
};

bool probes(Clock& clock, const char* name, std::unique_ptr<Variant> variant, std::int64_t count, int cores = 1) {
  ProbedFrames frames(*variant, clock, cores);
  for (int i = 0; i < 5; ++i) frames.run(false);
  const PairedRatio found = in_pairs(
      pairs, [&] { return frames.run(true); }, [&] { return frames.run(false); });
  const bool holds =
      report(fmt::format("Frames of {} {} with probes between them take, of those without,", count, name).c_str(),
             found, "of the time", found.surely_within(0.99, 1.01), "0.99 to 1.01");
  const double share = 100 * frames.probes_ns / (frames.probes_ns + frames.frames_ns);
  fmt::print("  probes took {:.2f} % of the time; wanted: at most 2 %; {}\n", share, share <= 2 ? "holds" : "MISSED");
  return holds && share <= 2;
}

bool all_probes(Clock& clock) {
  const auto probed = [&](const char* name, auto make, std::int64_t count) {
    return probes(clock, name, make(drift_set_up(count)), count);
  };
  bool hold = probed("columns", festival::make_drift_columns, 2000);
  hold &= probed("objects", festival::make_drift_objects, 2000);
  hold &= probed("columns", festival::make_drift_columns, 100'000);
  hold &= probed("objects", festival::make_drift_objects, 20'000);
  const SetUp on_two_cores = drift_set_up(400'000, {{"workers", 2}});
  hold &= probes(clock, "lanterns in jobs", festival::make_drift_jobs(on_two_cores), 400'000, 2);
  return hold;
}

}  // namespace

int main() {
  SystemClock clock;
  fmt::print("A clock reading costs {:.3g} ns here.\n", reading_cost_ns(clock));
  const bool empty = empty_frame(clock);
  const bool phase = phase_mark(clock);
  const bool seen = frame_time_seen(clock);
  const bool probed = all_probes(clock);
  return empty && phase && seen && probed ? 0 : 1;
}
