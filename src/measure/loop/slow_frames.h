// What slow frames take, as far as runs tell: where counts are to stand around capacities of other than typical ones.
#pragma once

#include <vector>

#include "measure/loop/study_state.h"

namespace mileage {

/// What 99 % of frames stay below, by series and count: of the machine as it was. The typical cost until frames are
/// measured.
std::vector<RoughCosts> max_frames_of(const StudyState& state);

/// The worst frames after arrivals, by series and count: medians over runs. Empty where nothing arrived.
std::vector<RoughCosts> worst_frames_of(const StudyState& state);

}  // namespace mileage
