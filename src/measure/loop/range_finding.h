// The range finding pass: short runs that bracket the budget for each series, and take part in no answer.
#pragma once

#include <optional>

#include "measure/loop/study_state.h"

namespace mileage {

/// Of the time allowed, checks and the runs that place the counts of the plan take this share.
inline constexpr double share_for_range_finding = 0.25;

/// Every series upwards along the counts of the plan until it is far over the budget; what was placed becomes the
/// ladder, and the cells of a block.
void find_ranges(StudyState& state);

/// Every count of the plan, unplaced: a person records no more than has to be.
void take_all_cells(StudyState& state);

struct PlacedCell {
  Cell cell;
  double frame_ms = 0;
};

/// What a range-finding run of this many frames will take, by what its series took at other counts; infinite where
/// nothing is known of it.
double foreseen_range_finding_s(const StudyState& state, std::size_t series, std::int64_t count, int frames);

/// A range-finding run, and another one where it looks over the budget: the faster one decides. Nothing when the first
/// one fails.
std::optional<PlacedCell> place_cell(StudyState& state, std::size_t series, std::int64_t count, Progress& progress);

}  // namespace mileage
