// Slow frames so far, to place counts around capacities for them.
#pragma once

#include "measure/loop/study_state.h"

namespace mileage {

enum class FramesOf {
  typical,
  max,   ///< 99th percentile.
  worst  ///< After arrivals.
};

/// Slow frames near a count, relative to the typical frame at full speed; 1 until there are any.
double slow_ratio(const StudyState& state, std::size_t series, double count, FramesOf frames);

/// Single frames that count for the 99th percentile at a count.
std::size_t pooled_frames(const StudyState& state, std::size_t series, double count);

}  // namespace mileage
