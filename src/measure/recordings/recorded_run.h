// From what a program recorded of itself to a run: warm-up set apart.
#pragma once

#include <optional>
#include <vector>

#include "study/frame_table.h"
#include "study/study.h"

namespace mileage {

/// Of the work that the recorders time between frames (framelog.h, drive.h).
inline constexpr int recorded_yardstick_version = 1;

/// The frames of a recording as a run, those before `warmup` set apart; sums of phases and counters are of the
/// others, and so is what the program told of a yardstick: of itself alone, for its own compiler made the work. Series,
/// block, order, process and status are the caller's. `warmup` is below the number of frames.
Run run_of(const Recording& recording, std::size_t warmup);

/// The phases of the same frames one by one; nothing where it has none, and where frames are this many that only
/// their sums are kept (20,000).
std::optional<Trace> trace_of(const Recording& recording, std::size_t warmup);

/// Frames until a series of frame times has settled (settling.h), at least three; all of them when it has not.
std::size_t frames_until_warm(const std::vector<std::int64_t>& frame_ns);

/// Frames to set apart of a recording that was asked for `least` measured ones: those until it has settled, but this
/// many are left.
std::size_t warmup_of(const std::vector<std::int64_t>& frame_ns, std::size_t min);

/// Cuts a recording to what follows an arrival: the last frame with fewer alive than in the next one is the last that
/// goes. Returns how many came; 0 where none did, and the recording stays as it is.
std::int64_t cut_to_arrival(Recording& recording);

/// Takes the first frames away.
void drop_first(Recording& recording, std::size_t frames);

}  // namespace mileage
