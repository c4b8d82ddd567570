// Frames that cost at most what was recorded: capped by a display, or timed by a coarse clock.
#pragma once

#include <string>
#include <vector>

#include "study/study.h"

namespace mileage {

/// What is thought of the frames of a run.
struct CapVerdict {
  std::string
      bound;  ///< Why they are at most the cost of a frame and no measure of it; empty where they are a measure.
  std::string warning;  ///< Why they may be; empty where nothing speaks for it.
};

/// One verdict per run; all runs are of one series. Frames are capped where they pile up at the period of a display
/// (90 % of them within 1 %) at two counts or more, and no frames of the series lie below that period. A pile at one
/// count alone, or one with shorter frames elsewhere, may be chance: a warning. Whole milliseconds are the steps of a
/// coarse clock: a bound. Fewer than ten samples tell nothing, and neither do readings by eye.
std::vector<CapVerdict> cap_verdicts(const std::vector<const Run*>& runs);

}  // namespace mileage
