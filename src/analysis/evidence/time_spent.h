// What measuring took.
#pragma once

#include <optional>

#include "study/study.h"

namespace mileage {

/// Seconds; parts add up to the whole.
struct TimeSpent {
  double whole_s = 0;     ///< All runs, from process start to end.
  double frames_s = 0;    ///< Measured frames.
  double settling_s = 0;  ///< Warm-up frames.
  double set_up_s = 0;
  double yardstick_s = 0;  ///< Probes.
  double before_s = 0;     ///< Checks and range finding.
  double lost_s = 0;       ///< Failed runs.
  double rest_s = 0;       ///< Processes, walking cold memory, everything else.
  /// Of commands: median process time besides frames, in ms.
  std::optional<double> overhead_ms;
};

/// Besides frames and probes: process start, set-up and end. 0 if unknown.
double overhead_s(const Run& run);

/// Nothing for tables and recordings by hand.
std::optional<TimeSpent> time_spent(const Study& study);

}  // namespace mileage
