// Range finding: short runs of growing counts until the budget is crossed; no evidence.
#pragma once

#include "measure/loop/study_state.h"

namespace mileage {

/// Of the time, with checks.
inline constexpr double share_for_range_finding = 0.25;

/// With plan.aim runs every series upwards from the smallest count by factors of at most 4 until it crosses the budget,
/// wherever that is; without, or if listed, at the plan's counts. Defines the ladder: the plan's counts up to there.
void find_ranges(StudyState& state);

/// For recordings by hand.
void take_all_cells(StudyState& state);

}  // namespace mileage
