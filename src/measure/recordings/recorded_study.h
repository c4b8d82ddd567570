// From recordings to a study: loading, arrivals, caps, odd recordings.
#pragma once

#include <string>
#include <vector>

#include "study/frame_table.h"
#include "study/study.h"

namespace mileage {

/// Names in the study.
struct RecordedAs {
  std::string scenario = "recording";
  std::string entities = "entities";
  double budget_ms = 1000.0 / 60.0;
};

/// Excludes loading (leading frames above twice the median) and frames after a change in count until they settle.
/// Capped recordings (caps.h) are bounds. Averages have no tail. The head's notes list what was done, and warn if
/// counts only rise, which confounds count and time. Runs without a block are numbered as blocks. Throws Error (bad
/// input) if none has enough frames.
Study study_of_recordings(const std::vector<Recording>& recordings, const RecordedAs& as);

}  // namespace mileage
