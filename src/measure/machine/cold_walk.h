// Walks other memory between frames, as the rest of a game does.
#pragma once

#include <cstddef>
#include <cstdint>
#include <vector>

#include "measure/machine/clock.h"
#include "measure/machine/process_facts.h"

namespace mileage {

/// Writes one byte per cache line of its own memory, which evicts smaller caches. Its time is kept to exclude it from
/// frames.
class ColdWalk {
 public:
  /// `bytes` are rounded to lines of 64 bytes, at least one.
  ColdWalk(std::size_t bytes, Clock& clock);

  void walk();

  /// Sums over all walks: wall time, and what was spent.
  std::int64_t wall_ns() const { return wall_ns_; }
  const SpentReading& spent() const { return spent_; }

 private:
  std::vector<unsigned char> memory_;
  Clock* clock_;
  std::int64_t wall_ns_ = 0;
  SpentReading spent_;
};

}  // namespace mileage
