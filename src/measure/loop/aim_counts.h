// Finding where the figures of a study lie (aiming.h), and putting counts around them.
#pragma once

#include "measure/loop/study_state.h"

namespace mileage {

/// Finds the figures of the goal with a few more range-finding runs, roughly for every series before closer for any.
/// Puts the cells of a block around them: the ladder without what an aim makes needless, and the counts around the
/// aims; fewer of both where time is short.
void aim_at_figures(StudyState& state);

/// After a block: the first ones tell better than single runs where the figures lie. Where those were all made while
/// the machine was slow, all good runs together tell later: the counts would miss the capacity to the end. Where a
/// cost jumps through a figure, a further count goes into the jump.
void correct_aims(StudyState& state, int block);

}  // namespace mileage
