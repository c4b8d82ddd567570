// From a program's recording to a run.
#pragma once

#include <optional>
#include <vector>

#include "study/frame_table.h"
#include "study/study.h"

namespace mileage {

/// Of framelog.h and drive.h.
inline constexpr int recorded_yardstick_version = 1;

/// The first `warmup` (< number) frames are warm-up. The program's own yardstick is comparable with itself only, since
/// its compiler built it. Series, block, order, process and status are up to the caller.
Run run_of(const Recording& recording, std::size_t warmup);

/// Phases of each frame; nothing without any, or above 20,000 frames.
std::optional<Trace> trace_of(const Recording& recording, std::size_t warmup);

/// Until frames settle (settling.h), at least three; all if they never do.
std::size_t frames_until_warm(const std::vector<std::int64_t>& frame_ns);

/// The same, but `least` frames are left.
std::size_t warmup_of(const std::vector<std::int64_t>& frame_ns, std::size_t min);

/// Cuts a recording to the frames after the last increase in count; returns how many arrived, 0 for none.
std::int64_t cut_to_arrival(Recording& recording);

void drop_first(Recording& recording, std::size_t frames);

}  // namespace mileage
