// Looking for a knob's best value: time goes to the values that could still be it.
#pragma once

#include "measure/loop/study_state.h"

namespace mileage {

/// Says again what the next block of a plan that tunes a knob runs: the cells of the ladder, without those that cannot
/// be best any more as far as runs of the blocks tell. Of a numeric knob with many values every third is measured
/// first, and those between two of them from when one of these may be within a quarter of the best. A value is given
/// up at a count where its runs say that it takes a quarter more than the best, and neither their scatter nor the
/// slowdown of the machine leaves a uncertainty; six runs it has by then. The default stays. Nothing where the plan
/// tunes no knob.
void plan_tuning_block(StudyState& state);

}  // namespace mileage
