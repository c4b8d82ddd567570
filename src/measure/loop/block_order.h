// In which order a block runs its cells.
#pragma once

#include <cstdint>
#include <vector>

namespace mileage {

/// A cell that takes part in the blocks.
struct Cell {
  std::size_t series = 0;  ///< Index into the plan's series.
  std::int64_t count = 0;
  bool aimed = false;  ///< Added around a figure.
  int min_frames = 0;
  double predicted_s = 0;  ///< Time of a run in a block.
  bool pooled = false;     ///< 99 % of frames are known from its frames, and none of them is skipped.
};

/// The cells with their counts in shuffled order, and at each count its series side by side in random order. The same
/// for the same seed, block and cells.
std::vector<Cell> block_order(std::vector<Cell> cells, std::uint64_t plan_seed, int block);

/// The cells shuffled: in which order it is asked whether a run of the block may be checked.
std::vector<Cell> check_order(std::vector<Cell> cells, std::uint64_t plan_seed, int block);

}  // namespace mileage
