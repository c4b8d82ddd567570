// What measuring costs. Three questions, each answered by a ratio within this run:
//   1. How many clock readings does an empty frame cost?              wanted: at most 2
//   2. How many does a phase mark cost?                               wanted: at most 3
//   3. Does the tool see the time of a frame that a bare loop takes?  wanted: within 1 %, columns of 10,000 lanterns
// Sides alternate pair by pair in random order; the interval is that of the paired median. Exit code 1 when a bar is
// missed.
#include <cstdio>
#include <random>
#include <vector>

#include <fmt/format.h>

#include "analysis/statistics/statistics.h"
#include "festival/drift_variants.h"
#include "measure/machine/clock.h"
#include "measure/runners/frame_meter.h"

namespace {

using namespace mileage;

constexpr int pairs = 3000;

class EmptyVariant : public Variant {
 public:
  void run_frame(Frame&) override {}
  std::int64_t alive() const override { return 0; }
  Outcome outcome() const override { return {}; }
};

/// Runs both sides of each pair in random order; a side returns its time in nanoseconds.
template <class One, class Other>
PairedRatio in_pairs(One one, Other other) {
  std::mt19937 random(1);
  std::vector<double> ones, others;
  for (int i = 0; i < pairs; ++i) {
    const bool one_first = random() % 2 == 0;
    if (!one_first) others.push_back(other());
    ones.push_back(one());
    if (one_first) others.push_back(other());
  }
  return paired_ratio(ones, others);
}

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
  const PairedRatio found = in_pairs(frames, [&] { return readings_ns(clock); });
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
  const PairedRatio found = in_pairs(marks, [&] { return readings_ns(clock); });
  return report("A phase mark, begin and end, costs", found, "clock readings", found.surely_within(0, 3), "at most 3");
}

bool frame_time_seen(Clock& clock) {
  constexpr int frames = 4;
  SetUp set_up{10'000, 1, 1.0 / 60.0, {}};
  set_up.knobs.set("work", 1.0);
  const auto variant = festival::make_drift_columns(set_up);
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
  const PairedRatio found = in_pairs(seen, bare);
  return report("The tool sees, of the time that a bare loop takes for a frame of 10,000 columns,", found, "of it",
                found.surely_within(0.99, 1.01), "0.99 to 1.01");
}

}  // namespace

int main() {
  SystemClock clock;
  fmt::print("A clock reading costs {:.3g} ns here.\n", reading_cost_ns(clock));
  const bool empty = empty_frame(clock);
  const bool phase = phase_mark(clock);
  const bool seen = frame_time_seen(clock);
  return empty && phase && seen ? 0 : 1;
}
