// Comparing outcomes before any timing.
#pragma once

#include "measure/loop/study_state.h"

namespace mileage {

/// Makes the checks of a plan (check_plan.h): short worlds whose outcomes are compared. Where a world of the larger
/// count turns out too dear for the time allowed, a smaller one is taken. What the checks exclude is measured no
/// further.
void check_outcomes(StudyState& state);

/// Once the cells of the blocks are known: checks at the largest counts measured, with fewer frames where they are
/// dear, at smaller counts where two frames are too dear even so; and one over as many frames as a run of the
/// smallest count has, up to 20,000. Work that stops after a while, or beyond some count, is caught by these. They take
/// 8 % of the time allowed at most. What they exclude leaves the cells.
void check_what_is_measured(StudyState& state);

/// After a block: a run of it, drawn at random, is compared with its reference over as many frames as it had, warm-up
/// included (up to 20,000). All these checks take at most 6 % of the time of the blocks so far, so a dear one waits for
/// up to four blocks, and has fewer frames where it is slower than that. Runs for which no more frames are left than
/// the checks before had are not drawn. What is excluded leaves the cells.
void check_a_run(StudyState& state, int block);

}  // namespace mileage
