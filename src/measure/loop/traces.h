// Traced runs: some of every cell that keep their frames with their parts one by one.
#pragma once

#include "measure/loop/study_state.h"

namespace mileage {

/// As many runs of each cell of the ladder as the plan asks for, before the blocks. Of a study with a time they take
/// a fifth of it at most: long ones get fewer frames, then there are fewer of them, and at last none.
void make_traces(StudyState& state);

}  // namespace mileage
