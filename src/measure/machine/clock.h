#pragma once

#include <cstdint>

namespace mileage {

/// An interface, so that tests can use virtual time.
class Clock {
 public:
  virtual ~Clock() = default;
  /// Monotonic.
  virtual std::int64_t now_ns() = 0;
  virtual void pause_ns(std::int64_t ns) = 0;
};

class SystemClock : public Clock {
 public:
  std::int64_t now_ns() override;
  void pause_ns(std::int64_t ns) override;
};

/// Median over rounds.
double reading_cost_ns(Clock& clock);

}  // namespace mileage
