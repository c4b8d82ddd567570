#pragma once

#include <optional>

namespace mileage {

/// A 95 % interval; an end may be open (unknown).
struct Interval {
  std::optional<double> low;
  std::optional<double> high;
  bool closed() const { return low && high; }
};

}  // namespace mileage
