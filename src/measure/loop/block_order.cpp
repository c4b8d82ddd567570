#include "measure/loop/block_order.h"

#include <algorithm>
#include <random>

namespace mileage {

std::vector<Cell> block_order(std::vector<Cell> cells, std::uint64_t plan_seed, int block) {
  std::seed_seq seeds{plan_seed & 0xffffffffU, plan_seed >> 32, static_cast<std::uint64_t>(block)};
  std::mt19937_64 random(seeds);
  std::shuffle(cells.begin(), cells.end(), random);
  std::vector<std::int64_t> counts;
  for (const Cell& cell : cells)
    if (std::find(counts.begin(), counts.end(), cell.count) == counts.end()) counts.push_back(cell.count);
  const auto turn = [&](const Cell& cell) { return std::find(counts.begin(), counts.end(), cell.count); };
  std::stable_sort(cells.begin(), cells.end(), [&](const Cell& a, const Cell& b) { return turn(a) < turn(b); });
  return cells;
}

}  // namespace mileage
