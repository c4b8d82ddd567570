// Simulated machines unlike the model: hidden states with random durations, integrated over frames.
#pragma once

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <memory>
#include <random>
#include <vector>

namespace mileage::foreign {

enum class Family {
  neighbour,      ///< On the sibling thread: two kinds of slow, heavy-tailed durations.
  busy_programs,  ///< On the same cores: time slices, waiting, cold caches.
  drifting_clock  ///< Slow drift and bursts of throttling.
};
inline constexpr Family families[]{Family::neighbour, Family::busy_programs, Family::drifting_clock};
const char* name_of(Family family);

enum class Load { quiet, some, heavy, always };
inline constexpr Load loads[]{Load::quiet, Load::some, Load::heavy, Load::always};
const char* name_of(Load load);

/// Probe of the machines at full speed.
inline constexpr double probe_at_full_speed_ns = 15'100;

class Random {
 public:
  explicit Random(std::uint64_t seed) : engine_(seed) {}
  double uniform(double from, double to) { return std::uniform_real_distribution<double>(from, to)(engine_); }
  /// Log-uniform.
  double ratio(double from, double to) { return std::exp(uniform(std::log(from), std::log(to))); }
  double normal(double sd) { return std::normal_distribution<double>(0, sd)(engine_); }
  double exponential(double mean) { return std::exponential_distribution<double>(1 / mean)(engine_); }
  bool chance(double share) { return uniform(0, 1) < share; }
  template <class Items>
  void shuffle(Items& items) {
    std::shuffle(items.begin(), items.end(), engine_);
  }

 private:
  std::mt19937_64 engine_;
};

struct State {
  double start_ms = 0;
  double compute = 1;    ///< Relative time of arithmetic,
  double memory = 1;     ///< and of memory access.
  bool is_away = false;  ///< Another program has the core.
};

/// States in order, generated as needed.
class Machine {
 public:
  explicit Machine(Random& random) : random_(random) {}
  virtual ~Machine() = default;

  const State& at(double ms) { return states_[index_at(ms)]; }

  struct Passed {
    double ms = 0;
    double waited_ms = 0;
  };
  /// Time of `work_ms` undisturbed milliseconds from a time on.
  Passed work(double from_ms, double work_ms, double memory_share) {
    Passed passed;
    std::size_t i = index_at(from_ms);
    for (double at_ms = from_ms;; at_ms = states_[++i].start_ms) {
      index_at(states_[i].start_ms + 1e4);
      const double lasts_ms = states_[i + 1].start_ms - at_ms;
      const State& state = states_[i];
      if (state.is_away) {
        passed.ms += lasts_ms;
        passed.waited_ms += lasts_ms;
        continue;
      }
      const double slowness = (1 - memory_share) * state.compute + memory_share * state.memory;
      const double needed_ms = work_ms * slowness;
      if (needed_ms <= lasts_ms) {
        passed.ms += needed_ms;
        return passed;
      }
      work_ms -= lasts_ms / slowness;
      passed.ms += lasts_ms;
    }
  }
  /// Arithmetic only.
  double probe_ns(double at_ms) {
    const State& state = at(at_ms);
    return probe_at_full_speed_ns * (state.is_away ? 1 : state.compute) * std::exp(random_.normal(0.003));
  }

 protected:
  virtual void go_on() = 0;
  void append(State state, double lasts_ms) {
    state.start_ms = end_ms_;
    states_.push_back(state);
    end_ms_ += lasts_ms;
  }
  Random& random() { return random_; }
  double now_ms() const { return end_ms_; }

 private:
  std::size_t index_at(double ms) {
    while (end_ms_ <= ms) go_on();
    const auto after = std::upper_bound(states_.begin(), states_.end(), ms,
                                        [](double at, const State& state) { return at < state.start_ms; });
    return static_cast<std::size_t>(after - states_.begin()) - 1;
  }

  Random& random_;
  std::vector<State> states_;
  double end_ms_ = 0;
};

std::unique_ptr<Machine> machine_of(Family family, Load load, Random& random);

}  // namespace mileage::foreign
