// How many blocks a wanted precision takes.
#pragma once

#include <optional>

namespace mileage {

/// Blocks of the first stage of a study for a precision.
inline constexpr int first_stage_blocks = 5;
/// Most blocks that a precision may ask for.
inline constexpr int max_blocks = 60;

/// Blocks that a study needs in all for a relative half-width of `wanted`, when `made` blocks (three at least) gave
/// `reached`: widths shrink with the root of the number of blocks (Stein 1945: two stages, the second planned from the
/// first, keep the coverage that stopping at the first narrow interval loses). Two more where there was no interval.
int blocks_wanted(int made, std::optional<double> reached, double wanted);

}  // namespace mileage
