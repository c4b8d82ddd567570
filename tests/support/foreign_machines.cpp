#include "support/foreign_machines.h"

namespace mileage::foreign {
namespace {

double disturbed_share(Load load) {
  switch (load) {
    case Load::quiet:
      return 0.02;
    case Load::some:
      return 0.3;
    case Load::heavy:
      return 0.75;
    case Load::always:
      return 1;
  }
  return 0;
}

class Neighbour : public Machine {
 public:
  Neighbour(Random& random, Load load) : Machine(random), share_(disturbed_share(load)) {
    const double arithmetic = random.ratio(1.6, 2.1), access = random.ratio(1.4, 1.7);
    slow_[0] = {0, arithmetic, std::pow(arithmetic, random.uniform(0.3, 0.8))};
    slow_[1] = {0, access, std::pow(access, random.uniform(0.7, 1.3))};
    mean_ms_ = random.ratio(1.5, 15);
  }

 protected:
  void go_on() override {
    if (share_ < 1) append({0, 1, 1}, length(mean_ms_ * (1 - share_) / share_));
    // Changes its activity every few seconds.
    if (random().chance(0.02)) kind_ = 1 - kind_;
    append(slow_[kind_], length(mean_ms_));
  }

 private:
  /// Mostly short, some ten times longer.
  double length(double mean_ms) {
    return random().exponential(random().chance(0.8) ? 0.35 * mean_ms : 3.6 * mean_ms) + 0.05;
  }

  double share_;
  State slow_[2];
  int kind_ = 0;
  double mean_ms_ = 5;
};

class BusyPrograms : public Machine {
 public:
  BusyPrograms(Random& random, Load load) : Machine(random), share_(std::min(0.55, disturbed_share(load) * 0.55)) {
    cold_ = {0, random.uniform(1.02, 1.15), random.uniform(1.2, 2)};
    cold_ms_ = random.uniform(0.2, 0.8);
    steady_ = 1 + share_ * random.uniform(0, 0.3);  // Caches and frequency of the other core.
  }

 protected:
  void go_on() override {
    const double slice_ms = random().chance(0.7) ? random().uniform(2.8, 4.2) : random().uniform(0.3, 9);
    append({0, steady_, steady_}, slice_ms * (1 - share_) / share_);
    append({0, 1, 1, true}, slice_ms);
    append({0, steady_ * cold_.compute, steady_ * cold_.memory}, cold_ms_);
  }

 private:
  double share_;
  State cold_;
  double cold_ms_ = 0.5, steady_ = 1;
};

class DriftingClock : public Machine {
 public:
  DriftingClock(Random& random, Load load) : Machine(random), share_(disturbed_share(load)) {
    swing_ = load == Load::quiet ? 0.01 : random.uniform(0.03, 0.12);
    throttled_ = random.ratio(1.25, 1.7);
    bound_by_clock_ = random.uniform(0.2, 0.6);
    level_ = load == Load::always ? random.uniform(0.2, 0.4) : 0;
  }

 protected:
  void go_on() override {
    constexpr double step_ms = 20, forgets_in_ms = 8'000;
    drift_ += -drift_ * step_ms / forgets_in_ms + random().normal(swing_ * std::sqrt(2 * step_ms / forgets_in_ms));
    if (burst_ms_ <= 0 && random().chance(0.2 * share_ * step_ms / 400))
      burst_ms_ = 400 * std::pow(random().uniform(0.02, 1), -0.6);
    const double slowdown = std::exp(std::fabs(drift_) + level_) * (burst_ms_ > 0 ? throttled_ : 1);
    burst_ms_ -= step_ms;
    append({0, slowdown, std::pow(slowdown, bound_by_clock_)}, step_ms);
  }

 private:
  double share_, swing_ = 0, throttled_ = 1, bound_by_clock_ = 1, level_ = 0, drift_ = 0, burst_ms_ = 0;
};

}  // namespace

std::unique_ptr<Machine> machine_of(Family family, Load load, Random& random) {
  switch (family) {
    case Family::neighbour:
      return std::make_unique<Neighbour>(random, load);
    case Family::busy_programs:
      return std::make_unique<BusyPrograms>(random, load);
    case Family::drifting_clock:
      return std::make_unique<DriftingClock>(random, load);
  }
  return nullptr;
}

const char* name_of(Family family) {
  return family == Family::neighbour       ? "neighbour"
         : family == Family::busy_programs ? "busy programs"
                                           : "drifting clock";
}

const char* name_of(Load load) {
  return load == Load::quiet ? "quiet" : load == Load::some ? "some" : load == Load::heavy ? "heavy" : "always";
}

}  // namespace mileage::foreign
