// The blocks of a study: passes over its cells in shuffled order, until the plan, the time or the precision is
// fulfilled.
#pragma once

#include "measure/loop/study_state.h"

namespace mileage {

/// Makes the blocks that the plan asks for; see measure_study().
void make_blocks(StudyState& state);

/// Looks at the precision where blocks were made since it was looked at last.
void check_final_precision(StudyState& state);

}  // namespace mileage
