// A 95 % interval, as every derived number carries it.
#pragma once

#include <optional>

namespace mileage {

/// An interval whose ends may be open (unknown).
struct Interval {
  std::optional<double> low;
  std::optional<double> high;
  bool closed() const { return low && high; }
};

}  // namespace mileage
