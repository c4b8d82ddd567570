#pragma once

#include <optional>

namespace mileage {

inline constexpr int first_stage_blocks = 5;
inline constexpr int max_blocks = 60;

/// Blocks needed for a half-width of `wanted` after `made` (>= 3) gave `reached`: widths shrink with the square root
/// (Stein 1945: planning a second stage from the first keeps the coverage that stopping at the first narrow interval
/// loses). Two more without an interval.
int blocks_wanted(int made, std::optional<double> reached, double wanted);

}  // namespace mileage
