// Rounds of runs: after each, the runs that narrow the goal's figures most per second are next.
#pragma once

#include "measure/loop/figures.h"

namespace mileage {

/// For a useful interval.
inline constexpr int rounds_needed = 5;
/// With a precision alone.
inline constexpr int max_rounds = 60;

/// Until the time, the precision or the number of blocks is reached, or nothing is left to run. With a time and
/// plan.aim a round is a sixteenth of it, filled with the runs that narrow the figures most per second; otherwise it
/// has every count of the plan and around figures, when tuning without values that are clearly slower.
void make_rounds(StudyState& state);

/// Where rounds may measure, by range finding.
void find_cells(StudyState& state);

/// Where a round may measure: the ladder, and for each figure the counts around it.
std::vector<Cell> candidates_of(const StudyState& state, const std::vector<Figure>& figures);

double predicted_round_s(const StudyState& state);

}  // namespace mileage
