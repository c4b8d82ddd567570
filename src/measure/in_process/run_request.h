// What a run is asked to do.
#pragma once

#include <cstdint>
#include <string>

#include "study/study.h"

namespace mileage {

/// One run, as it is sent to a runner.
struct RunRequest {
  std::string scenario;
  Series series;
  std::int64_t count = 0;
  std::uint64_t seed = 0;
  int min_frames = 20;  ///< Measured frames, at least.
  double min_ms = 20;   ///< Measured time in milliseconds, at least.
  /// Above 0: a check instead of a measurement. Exactly this many frames from the set-up on, without warm-up, so that
  /// outcomes can be compared.
  int check_frames = 0;
  /// Above 0: this many of the count come at once, after the others have settled.
  std::int64_t arrive = 0;
  bool traced = false;  ///< Whether frames are kept with their parts one by one.
};

/// The run that a request would have become, failed for this reason. Reasons may come from programs: paths in them
/// are cut to their last part, characters that control a terminal become "?", and long ones are cut.
Run failed_run(const RunRequest& request, const std::string& reason);

/// The run that a request asks for, with nothing in it yet.
Run blank_run(const RunRequest& request);

}  // namespace mileage
