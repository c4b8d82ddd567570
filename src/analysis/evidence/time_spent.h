// What measuring itself cost in a study.
#pragma once

#include <optional>

#include "study/study.h"

namespace mileage {

/// Where the time of a study went, in seconds. The parts add up to the whole.
struct TimeSpent {
  double whole_s = 0;      ///< All runs, from the start of a process to its end.
  double frames_s = 0;     ///< Measured frames.
  double settling_s = 0;   ///< Frames before them.
  double set_up_s = 0;     ///< Setting worlds up.
  double yardstick_s = 0;  ///< Probes, beside measured frames and around them.
  double before_s = 0;     ///< Runs that only compared outcomes or told where counts lie.
  double lost_s = 0;       ///< Runs that failed.
  double rest_s = 0;       ///< Starting and ending processes, walking other memory, everything else.
  /// Of commands: median time of a process besides its frames, start, set-up and end, in milliseconds.
  std::optional<double> overhead_ms;
};

/// What a run took besides its frames and the probes: start of a process, set-up and end. 0 where it does not tell.
double overhead_s(const Run& run);

/// Nothing of studies whose runs do not tell how long they took: tables, recordings by hand.
std::optional<TimeSpent> time_spent(const Study& study);

}  // namespace mileage
