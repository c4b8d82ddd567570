#include "measure/loop/block_order.h"

#include <algorithm>
#include <random>

namespace mileage {
namespace {

/// Stream for the order of runs.
constexpr std::uint64_t for_runs = 0;
constexpr std::uint64_t for_checks = 1;

void shuffle(std::vector<Cell>& cells, std::uint64_t plan_seed, int block, std::uint64_t purpose) {
  std::vector<std::uint64_t> from{plan_seed & 0xffffffffU, plan_seed >> 32, static_cast<std::uint64_t>(block)};
  if (purpose != for_runs) from.push_back(purpose);
  std::seed_seq seeds(from.begin(), from.end());
  std::mt19937_64 random(seeds);
  std::shuffle(cells.begin(), cells.end(), random);
}

}  // namespace

std::vector<Cell> block_order(std::vector<Cell> cells, std::uint64_t plan_seed, int block) {
  shuffle(cells, plan_seed, block, for_runs);
  std::vector<std::int64_t> counts;
  for (const Cell& cell : cells)
    if (std::find(counts.begin(), counts.end(), cell.count) == counts.end()) counts.push_back(cell.count);
  const auto turn = [&](const Cell& cell) { return std::find(counts.begin(), counts.end(), cell.count); };
  std::stable_sort(cells.begin(), cells.end(), [&](const Cell& a, const Cell& b) { return turn(a) < turn(b); });
  return cells;
}

std::vector<Cell> check_order(std::vector<Cell> cells, std::uint64_t plan_seed, int block) {
  shuffle(cells, plan_seed, block, for_checks);
  return cells;
}

}  // namespace mileage
