// Finding a knob's best value: time goes to values that may be it.
#pragma once

#include "measure/loop/study_state.h"

namespace mileage {

/// Plans the next block when tuning: cells of the ladder without values that can no longer be best. Of many numeric
/// values every third is first; those next to one within 1.25x of the best follow. A value is dropped at a count when
/// it is surely 1.25x slower after six runs. The default stays.
void plan_tuning_block(StudyState& state);

}  // namespace mileage
