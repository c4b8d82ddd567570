// The clock that frames are timed with.
#pragma once

#include <cstdint>

namespace mileage {

/// Tells the time. An interface, so that tests can drive the measuring loop with a clock of their own.
class Clock {
 public:
  virtual ~Clock() = default;
  /// Nanoseconds since some fixed moment; never goes backwards.
  virtual std::int64_t now_ns() = 0;
  /// Lets so much time pass, for others.
  virtual void pause_ns(std::int64_t ns) = 0;
};

/// The monotonic clock of the system.
class SystemClock : public Clock {
 public:
  std::int64_t now_ns() override;
  void pause_ns(std::int64_t ns) override;
};

/// Cost of one reading in nanoseconds: the median over rounds of readings.
double reading_cost_ns(Clock& clock);

}  // namespace mileage
