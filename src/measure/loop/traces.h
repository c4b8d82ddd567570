// Traced runs, which keep frames one by one.
#pragma once

#include "measure/loop/study_state.h"

namespace mileage {

/// Before the blocks, for each cell of the ladder; at most a fifth of the time: frames are reduced first, then runs.
void make_traces(StudyState& state);

}  // namespace mileage
