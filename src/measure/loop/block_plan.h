// What a block runs: counts of the plan and around the goal's figures, limited so that enough blocks fit.
#pragma once

#include "measure/loop/study_state.h"

namespace mileage {

/// For a useful interval.
inline constexpr int blocks_needed = 5;

/// Plans the next block after `made` whole ones: skips parts (Skipped) in order until eight blocks fit; frames,
/// break-evens and counts around figures only if five would not fit. Counts around figures only change before the first
/// block, since differing blocks compare poorly. Figures for 99 % keep counts and frames. Nothing is restored later.
/// Notifies the watch if five blocks do not fit.
void plan_block(StudyState& state, int made);

double predicted_block_s(const StudyState& state);

/// Whether larger counts may be tried for this series.
bool may_be_tried(const StudyState& state, std::size_t series, double count);

/// From the nearest count tried, with the slowdown of that moment.
RunCost cost_near(const StudyState& state, std::size_t series, std::int64_t count);
/// The same from costs of frames (at least one) and runs.
RunCost cost_near(const RoughCosts& costs, const std::map<std::int64_t, RunCost>& run_costs, std::int64_t count);

/// Nearest known cost, scaled in proportion.
double rough_cost(const RoughCosts& costs, std::int64_t count);

void note_if_too_short(StudyState& state);

}  // namespace mileage
