// Cost of the recorder header relative to a bare loop, in pairs in random order, in nanoseconds:
// 1. recorded frame with its row on disk; wanted: at most 100, by the upper end of the interval
// 2. the same in memory   3. phase mark   4. frame without recording   5. frame at 5,000 per second (cold code and
// data) The yardstick discards disturbed pairs. Exit code 1 on a miss.
#include "mileage/framelog.h"

#include <algorithm>
#include <cstdio>
#include <filesystem>
#include <random>
#include <string>
#include <vector>

#include <fmt/format.h>

#include "analysis/statistics/statistics.h"
#include "analysis/evidence/disturbance_filter.h"
#include "measure/machine/clock.h"
#include "measure/machine/machine_facts.h"
#include "measure/machine/remembered_full_speed.h"
#include "measure/machine/yardstick.h"

namespace {

using namespace mileage;

constexpr int pairs = 200;
constexpr int max_for_one = 4;
constexpr int frames = 20'000;

/// Keeps the compiler from dropping work.
volatile unsigned sink = 0;

double bare_ns() {
  const std::uint64_t start = framelog_now_ns();
  for (int i = 0; i < frames; ++i) sink = sink + 1;
  return static_cast<double>(framelog_now_ns() - start) / frames;
}

/// Into a new table: overwritten files are flushed on close.
[[gnu::noipa]] double recorded_ns(const char* path, bool with_phase) {
  if (path != nullptr) std::remove(path);
  framelog log;
  framelog_open(&log, path, 0);
  const int phase = framelog_phase(&log, "carry");
  const int updates = framelog_counter(&log, "updates");
  framelog_begin(&log);  // Makes the buffers.
  framelog_end(&log);
  const std::uint64_t start = framelog_now_ns();
  for (int i = 0; i < frames; ++i) {
    framelog_begin(&log);
    if (with_phase) framelog_phase_begin(&log, phase);
    sink = sink + 1;
    if (with_phase) framelog_phase_end(&log, phase);
    framelog_add(&log, updates, 1000);
    framelog_alive(&log, 1000);
    framelog_end(&log);
  }
  framelog_close(&log);
  return static_cast<double>(framelog_now_ns() - start) / frames;
}

double readings_ns() {
  const std::uint64_t start = framelog_now_ns();
  std::uint64_t last = 0;
  for (int i = 0; i < frames; ++i) last += framelog_now_ns();
  sink = sink + static_cast<unsigned>(last);
  return static_cast<double>(framelog_now_ns() - start) / frames;
}

/// Slowdown.
constexpr double quiet_within = 1.2;
constexpr int probes_a_side = 20;

/// The yardstick decides which pairs count.
class Pairs {
 public:
  Pairs() : yardstick_(clock_), judge_(remembered_full_speed_ns(machine_facts())) {}

  /// 200 differences in random order, if the machine allows.
  template <class One, class Other>
  std::vector<double> differences(One one, Other other) {
    std::vector<double> counting;
    std::vector<Made> made;
    while (counting.size() < pairs && made.size() < max_for_one * pairs) {
      made.push_back(make(one, other));
      judge_.add(made.back().probed);
      counting.clear();
      for (const Made& pair : made)
        if (judge_.slowness(pair.probed).value_or(1) < quiet_within) counting.push_back(pair.difference);
    }
    return counting;
  }

  std::string state() const {
    return judge_.is_slow_throughout() ? "! this machine as it was: its yardstick was slow throughout\n" : "";
  }

 private:
  struct Made {
    double difference;
    Run probed;  ///< Holds the yardstick only.
  };

  template <class One, class Other>
  Made make(One one, Other other) {
    Made made{};
    made.probed.block = 1;
    Probes probes;
    probe(Probes::one, probes);
    const bool first = random_() % 2 == 0;
    const double before = first ? 0 : other();
    const double a = one();
    made.difference = a - (first ? other() : before);
    probe(Probes::other, probes);
    made.probed.yardstick = probes.reading(ProbedBy::work, 0);
    return made;
  }

  void probe(Probes::Half half, Probes& probes) {
    for (int i = 0; i < probes_a_side; ++i) probes.add(half, yardstick_.probe_ns());
  }

  SystemClock clock_;
  MachineYardstick yardstick_;
  DisturbanceFilter judge_;
  std::mt19937 random_{1};
};

/// Upper end of the interval.
double report(const char* what, const std::vector<double>& ns) {
  const Interval interval = median_interval(ns);
  fmt::print("{}: {:.1f} ns (95 % {:.1f} to {:.1f}, {} pairs)\n", what, median(ns), *interval.low, *interval.high,
             ns.size());
  return *interval.high;
}

/// Paced frames with and without recording in turn, and the time of writing a row.
void report_paced(const char* path) {
  constexpr int paced_frames = 50'000;
  constexpr int in_turn = 100;
  constexpr std::uint64_t pace_ns = 200'000;
  framelog log;
  framelog_open(&log, path, 0);
  const int updates = framelog_counter(&log, "updates");
  framelog_begin(&log);  // Makes the buffers.
  framelog_end(&log);
  std::vector<double> ns[2];
  std::vector<double> written_ns;
  double rows = 0;
  for (int i = 0; i < paced_frames; ++i) {
    for (const std::uint64_t start = framelog_now_ns(); framelog_now_ns() - start < pace_ns;) {}
    const bool recorded = i / in_turn % 2 == 0;
    const framelog_figure* before = log.row;
    const std::uint64_t begin = framelog_now_ns();
    if (recorded) {
      framelog_begin(&log);
      framelog_add(&log, updates, 1000);
      framelog_alive(&log, 1000);
      framelog_end(&log);
    }
    const auto took = static_cast<double>(framelog_now_ns() - begin);
    if (log.row < before) {
      written_ns.push_back(took / rows);
      rows = 0;
    } else {
      ns[recorded].push_back(took);
    }
    rows += recorded;
  }
  framelog_close(&log);
  fmt::print(
      "at 5,000 frames a second: {:.1f} ns a frame, and {:.1f} ns a row between frames, once a second (medians)\n",
      median(ns[1]) - median(ns[0]), median(written_ns));
}

}  // namespace

int main() {
  Pairs measured;
  const std::string on_disk = (std::filesystem::temp_directory_path() / "mileage-bench-framelog.csv").string();
  const std::filesystem::path memory = "/dev/shm";
  const double max_ns = report("a recorded frame, its row on disk included",
                               measured.differences([&] { return recorded_ns(on_disk.c_str(), false); }, bare_ns));
  if (std::filesystem::is_directory(memory)) {
    const std::string in_memory = (memory / "mileage-bench-framelog.csv").string();
    report("the same, its row in memory",
           measured.differences([&] { return recorded_ns(in_memory.c_str(), false); }, bare_ns));
    std::remove(in_memory.c_str());
  }
  report("a phase mark", measured.differences([&] { return recorded_ns(on_disk.c_str(), true); },
                                              [&] { return recorded_ns(on_disk.c_str(), false); }));
  report("a frame where nothing is recorded",
         measured.differences([&] { return recorded_ns(nullptr, false); }, bare_ns));
  report_paced(on_disk.c_str());
  std::vector<double> readings;
  for (int i = 0; i < pairs; ++i) readings.push_back(readings_ns());
  std::remove(on_disk.c_str());
  fmt::print("a clock reading: {:.1f} ns, of which a frame takes two\n", median(readings));
  fmt::print("{}", measured.state());
  const bool holds = max_ns <= 100;
  fmt::print("wanted: at most 100 ns a frame; {}\n", holds ? "holds" : "MISSED");
  return holds ? 0 : 1;
}
