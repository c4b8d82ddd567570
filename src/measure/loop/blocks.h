// Blocks: passes over the cells in shuffled order until plan, time or precision end the study.
#pragma once

#include "measure/loop/study_state.h"

namespace mileage {

/// See measure_study().
void make_blocks(StudyState& state);

/// If blocks were added since the last estimate.
void check_final_precision(StudyState& state);

}  // namespace mileage
