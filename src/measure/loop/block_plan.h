// What a block runs: the counts of the plan and those around the figures of the goal, as far as enough blocks fit
// into the time.
#pragma once

#include "measure/loop/study_state.h"

namespace mileage {

/// Blocks that an interval worth having needs.
inline constexpr int blocks_needed = 5;

/// Says again what the next block runs, after `made` whole ones. As much is skipped (Skipped), one after the other,
/// as it takes for eight blocks to fit into the time; frames, break-evens and counts around figures only where five
/// would not fit else. Counts around figures are skipped before the first block alone: blocks that differ in them
/// would tell little together. The figures of 99 % of frames keep their counts and their frames. Nothing is taken back
/// later. Tells the watch before the first block where five do not fit even so.
void plan_block(StudyState& state, int made);

/// Seconds that a block takes, as its cells foresee.
double predicted_block_s(const StudyState& state);

/// Whether larger counts may be tried at all, by the plan and for this series.
bool may_be_tried(const StudyState& state, std::size_t series, double count);

/// What a run would take at a count, by the nearest one that was looked at, on the machine as slow as it was then.
RunCost cost_near(const StudyState& state, std::size_t series, std::int64_t count);
/// The same by what frames and runs of a series cost at some counts; of frames at one at least.
RunCost cost_near(const RoughCosts& costs, const std::map<std::int64_t, RunCost>& run_costs, std::int64_t count);

/// Cost of the nearest count that was looked at, in proportion.
double rough_cost(const RoughCosts& costs, std::int64_t count);

/// Tells the watch where five blocks of the cells do not fit into the time.
void note_if_too_short(StudyState& state);

}  // namespace mileage
