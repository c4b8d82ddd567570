#pragma once

#include <cstdint>
#include <string>

#include "study/study.h"

namespace mileage {

/// One run, as sent to a runner.
struct RunRequest {
  std::string scenario;
  Series series;
  std::int64_t count = 0;
  std::uint64_t seed = 0;
  int min_frames = 20;
  double min_ms = 20;
  /// Above 0: a check with exactly this number of frames and no warm-up.
  int check_frames = 0;
  /// Above 0: this part of the count arrives at once after warm-up.
  std::int64_t arrive = 0;
  bool traced = false;  ///< Keeps frames one by one.
};

/// A failed run. In the reason, which may come from a program, paths are cut to base names, control characters
/// replaced, and long text cut.
Run failed_run(const RunRequest& request, const std::string& reason);

/// The requested run, still empty.
Run blank_run(const RunRequest& request);

}  // namespace mileage
