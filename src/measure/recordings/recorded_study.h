// From what programs recorded of themselves to a study: loading and arrivals set apart, caps seen, odd recordings
// named.
#pragma once

#include <string>
#include <vector>

#include "study/frame_table.h"
#include "study/study.h"

namespace mileage {

/// What recordings are called in a study.
struct RecordedAs {
  std::string scenario = "recording";
  std::string entities = "entities";
  double budget_ms = 1000.0 / 60.0;
};

/// A study of recordings. Loading frames at the start are set apart (leading ones of more than twice the median), and
/// so are frames after a change of the count within one run, until they have settled. Recordings with a cap (caps.h)
/// become bound runs. Averages over many frames (from frames per second) carry no tail. What was done to whom stands
/// in the head's notes, and so does the warning that order and count do not differ significantly where counts only
/// climb. Runs of a cell without a block are numbered as blocks. Throws Error (bad input) when no recording holds
/// enough frames.
Study study_of_recordings(const std::vector<Recording>& recordings, const RecordedAs& as);

}  // namespace mileage
