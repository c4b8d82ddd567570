// The yardstick: a short piece of fixed work, timed again and again while a visit is made, so that frames which a busy
// machine slowed down are told from frames that take long.
#pragma once

#include <array>
#include <vector>

#include "measure/machine/clock.h"
#include "study/study.h"

namespace mileage {

/// Changes with every change of the work that is timed; times of other versions say nothing.
inline constexpr int yardstick_version = 3;

/// Times the work once. An interface, so that tests can script a machine of several speeds.
class Yardstick {
 public:
  virtual ~Yardstick() = default;
  /// Nanoseconds of one probe, more than 0.
  virtual double probe_ns() = 0;
};

/// The real one: arithmetic that is bound by throughput, about 15 us on a fast machine.
class MachineYardstick : public Yardstick {
 public:
  explicit MachineYardstick(Clock& clock) : clock_(&clock) {}
  double probe_ns() override;

 private:
  Clock* clock_;
};

/// Gathers the probes of one visit into what is kept of them.
class Probes {
 public:
  enum Half { one, other };

  void add(Half half, double ns) { ns_[half].push_back(ns); }
  std::size_t size() const { return ns_[one].size() + ns_[other].size(); }
  double total_ns() const;
  /// Nothing unless both halves have probes.
  std::optional<YardstickReading> reading() const;

 private:
  std::array<std::vector<double>, 2> ns_;
};

}  // namespace mileage
