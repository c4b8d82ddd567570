// Walks other memory between frames, as the rest of a game's frame does.
#pragma once

#include <cstddef>
#include <cstdint>
#include <vector>

#include "measure/machine/clock.h"
#include "measure/machine/process_facts.h"

namespace mileage {

/// Reads and writes one byte in every line of a piece of memory of its own, so that what the caches held before is
/// thrown out of all slowdowns smaller than it. What walking took is kept, to be excluded of the times of frames.
class ColdWalk {
 public:
  /// Takes `bytes` of memory (whole lines of 64 bytes, one at least) and touches them all.
  ColdWalk(std::size_t bytes, Clock& clock);

  void walk();

  /// Sums over the walks so far: wall time in nanoseconds, and what was spent during that time.
  std::int64_t wall_ns() const { return wall_ns_; }
  const SpentReading& spent() const { return spent_; }

 private:
  std::vector<unsigned char> memory_;
  Clock* clock_;
  std::int64_t wall_ns_ = 0;
  SpentReading spent_;
};

}  // namespace mileage
