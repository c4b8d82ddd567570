// Slow frames so far, to place counts around capacities for them.
#pragma once

#include <vector>

#include "measure/loop/study_state.h"

namespace mileage {

/// 99th percentile by series and count; typical cost until frames are measured.
std::vector<RoughCosts> max_frames_of(const StudyState& state);

/// Median over runs of the worst frame after an arrival; may be empty.
std::vector<RoughCosts> worst_frames_of(const StudyState& state);

}  // namespace mileage
