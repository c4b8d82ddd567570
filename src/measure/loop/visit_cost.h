// How many frames a visit has, and how long it will take.
#pragma once

#include "study/study.h"

namespace mileage {

/// A series is not placed beyond a count whose placing visit is so many times over the budget, and a frame farther over
/// it gets fewer frames.
inline constexpr double far_over_budget = 1.6;
/// What a visit costs besides its frames, until it is known: starting a process.
inline constexpr double start_of_visit_s = 0.02;

/// Frames of a visit: fewer where they are heavy, and fewer still where they are far over the budget; three at least.
int frames_for(const Plan& plan, double frame_ms);

/// Time of a visit in a block: what the placing visit took besides its frames and the walks between them, and the
/// frames and walks of a whole visit.
double predicted_s(const Plan& plan, const Visit& placing, int frames);

}  // namespace mileage
