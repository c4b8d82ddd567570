// Comparing outcomes before any timing.
#pragma once

#include "measure/loop/study_state.h"

namespace mileage {

/// Makes the checks of a plan (check_plan.h): short worlds whose outcomes are compared. Where a world of the larger
/// count turns out too dear for the time allowed, a smaller one is taken. What the checks exclude is measured no
/// further.
void check_outcomes(StudyState& state);

}  // namespace mileage
