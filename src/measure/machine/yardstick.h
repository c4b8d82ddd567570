// The yardstick: a fixed piece of work timed beside every visit, so that a disturbed or slow machine is told from a
// slow variant.
#pragma once

#include "measure/machine/clock.h"
#include "study/study.h"

namespace mileage {

/// Changes with every change of the work that is timed; levels of other versions say nothing.
inline constexpr int yardstick_version = 2;

/// Times the yardstick. An interface, so that tests can script a machine of two speeds.
class Yardstick {
 public:
  virtual ~Yardstick() = default;
  virtual YardstickTimes take() = 0;
};

/// The real one: arithmetic that is bound by throughput (wide, independent, of several kinds), about 0.1 ms, median
/// of five; and a walk through 2 MiB of memory with reading and writing, median of three. About 1.5 ms in all. Holds
/// its memory from its construction on.
class MachineYardstick : public Yardstick {
 public:
  explicit MachineYardstick(Clock& clock);
  ~MachineYardstick() override;
  MachineYardstick(const MachineYardstick&) = delete;
  MachineYardstick& operator=(const MachineYardstick&) = delete;

  YardstickTimes take() override;

 private:
  Clock* clock_;
  double* memory_;
};

}  // namespace mileage
