// Comparing outcomes.
#pragma once

#include "measure/loop/study_state.h"

namespace mileage {

/// Makes the plan's checks (check_plan.h), at a smaller count if the larger one takes too long. Excluded series are not
/// measured.
void check_outcomes(StudyState& state);

/// When cells are known: checks at the largest counts (with fewer frames or smaller counts if expensive), and one over
/// as many frames as a run at the smallest count, up to 20,000. Detects work that stops after a while or beyond a
/// count. At most 8 % of the time. Excluded series leave the cells.
void check_what_is_measured(StudyState& state);

/// After a block: compares one of its runs, drawn at random, with its reference over as many frames (up to 20,000). At
/// most 6 % of block time: an expensive check waits for up to four blocks, or has fewer frames. Runs that could not
/// have more frames than earlier checks are not drawn.
void check_a_run(StudyState& state, int block);

}  // namespace mileage
