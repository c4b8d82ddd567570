// Range finding: short runs that bracket the budget for each series; no evidence.
#pragma once

#include <optional>

#include "measure/loop/study_state.h"

namespace mileage {

/// Of the time, with checks.
inline constexpr double share_for_range_finding = 0.25;

/// Runs every series upwards until far over budget; defines the ladder and the cells of a block.
void find_ranges(StudyState& state);

/// For recordings by hand.
void take_all_cells(StudyState& state);

struct PlacedCell {
  Cell cell;
  double frame_ms = 0;
};

/// From the series' other counts; infinite if unknown.
double foreseen_range_finding_s(const StudyState& state, std::size_t series, std::int64_t count, int frames);

/// Repeated if it seems over budget; the faster one counts. Nothing if the first fails.
std::optional<PlacedCell> place_cell(StudyState& state, std::size_t series, std::int64_t count, Progress& progress);

}  // namespace mileage
