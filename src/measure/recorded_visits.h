// From what a program recorded of itself to visits: warm-up set apart, caps seen, odd recordings named.
#pragma once

#include <string>
#include <vector>

#include "study/frame_table.h"
#include "study/study.h"

namespace mileage {

/// The frames of a recording as a visit, those before `warmup` set apart; sums of phases and counters are of the others.
/// Series, block, order, process and status are the caller's. `warmup` is below the number of frames.
Visit visit_of(const Recording& recording, std::size_t warmup);

/// Frames until a series of frame times has settled (settling.h), at least three; all of them when it has not.
std::size_t frames_until_settled(const std::vector<std::int64_t>& frame_ns);

/// Frames to set apart of a recording that was asked for `least` measured ones: those until it has settled, but so many are left.
std::size_t warmup_of(const std::vector<std::int64_t>& frame_ns, std::size_t least);

/// What recordings are called in a study.
struct RecordedAs {
  std::string scenario = "recording";
  std::string entities = "entities";
  double budget_ms = 1000.0 / 60.0;
};

/// A study of recordings. Loading frames at the start are set apart (leading ones of more than twice the median), and
/// so are frames after a change of the count within one run, until they have settled. Recordings with a cap (caps.h)
/// become bound visits. Averages over many frames (from frames per second) carry no tail. What was done to whom stands
/// in the head's notes, and so does the warning that order and count cannot be told apart where counts only climb.
/// Visits of a cell without a block are numbered as blocks. Throws Error (bad input) when no recording holds enough
/// frames.
Study study_of_recordings(const std::vector<Recording>& recordings, const RecordedAs& as);

}  // namespace mileage
