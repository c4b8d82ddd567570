// Walks other memory between frames, as the rest of a game's frame does.
#pragma once

#include <cstddef>
#include <cstdint>
#include <vector>

#include "measure/machine/clock.h"

namespace mileage {

/// Reads and writes one byte in every line of a piece of memory of its own, so that what the caches held before is
/// thrown out of all levels smaller than it. What walking took is kept, to be left out of the times of frames.
class ColdWalk {
 public:
  /// Takes `bytes` of memory (whole lines of 64 bytes, one at least) and touches them all.
  ColdWalk(std::size_t bytes, Clock& clock);

  void walk();

  /// Sums over the walks so far, in nanoseconds: wall time, processor time of the calling thread, and of all threads
  /// while it walked.
  struct Spent {
    std::int64_t wall_ns = 0;
    std::int64_t thread_ns = 0;
    std::int64_t processor_ns = 0;
  };
  const Spent& spent() const { return spent_; }

 private:
  std::vector<unsigned char> memory_;
  Clock* clock_;
  Spent spent_;
};

}  // namespace mileage
