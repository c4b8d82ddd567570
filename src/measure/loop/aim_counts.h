// Finds the figures of a study (aiming.h) and places counts around them.
#pragma once

#include "measure/loop/study_state.h"

namespace mileage {

/// With a few more range-finding runs, coarse for every series first. Cells of a block are then the ladder without what
/// aims replace, and counts around the aims; fewer if time is short.
void aim_at_figures(StudyState& state);

/// After a block: moves aims by its costs; later, missed capacities only. Adds a count inside a step at the figure.
void correct_aims(StudyState& state, int block);

}  // namespace mileage
