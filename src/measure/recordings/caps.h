// Recordings that are upper bounds: capped by a display, or timed by a coarse clock.
#pragma once

#include <string>
#include <vector>

#include "study/study.h"

namespace mileage {

struct CapVerdict {
  std::string bound;    ///< Why frames are only an upper bound; empty if not.
  std::string warning;  ///< Why they may be; else empty.
};

/// By run, all of one series. Capped: 90 % of frames within 1 % of a display's period at two counts or more, and none
/// in the series below it. At one count, or with shorter frames elsewhere: a warning. Whole milliseconds are a coarse
/// clock. Needs ten samples.
std::vector<CapVerdict> cap_verdicts(const std::vector<const Run*>& runs);

}  // namespace mileage
