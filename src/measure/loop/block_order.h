// Order of cells within a block.
#pragma once

#include <cstdint>
#include <vector>

namespace mileage {

struct Cell {
  std::size_t series = 0;  ///< Index in the plan.
  std::int64_t count = 0;
  int min_frames = 0;
  double predicted_s = 0;  ///< Of a run.
  bool pooled = false;     ///< Its frames give the 99th percentile.
};

/// Counts shuffled; series of a count adjacent in random order. Deterministic by seed and block.
std::vector<Cell> block_order(std::vector<Cell> cells, std::uint64_t plan_seed, int block);

/// Order in which runs of a block are considered for a check.
std::vector<Cell> check_order(std::vector<Cell> cells, std::uint64_t plan_seed, int block);

}  // namespace mileage
