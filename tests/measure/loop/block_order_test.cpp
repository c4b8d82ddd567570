#include "measure/loop/block_order.h"

#include <algorithm>
#include <set>

#include <gtest/gtest.h>

namespace mileage {
namespace {

std::vector<Cell> grid(std::size_t series, std::int64_t counts) {
  std::vector<Cell> cells;
  for (std::size_t one = 0; one < series; ++one)
    for (std::int64_t count = 1; count <= counts; ++count) cells.push_back({one, count});
  return cells;
}

std::vector<std::pair<std::int64_t, std::size_t>> order_of(std::uint64_t seed, int block) {
  std::vector<std::pair<std::int64_t, std::size_t>> order;
  for (const Cell& cell : block_order(grid(3, 8), seed, block)) order.emplace_back(cell.count, cell.series);
  return order;
}

TEST(BlockOrder, HoldsEveryCellOnceAndSeriesOfACountSideBySide) {
  const auto order = order_of(1, 0);
  EXPECT_EQ(std::set(order.begin(), order.end()).size(), 24U);
  for (std::size_t i = 0; i < order.size(); i += 3) {
    EXPECT_EQ(order[i].first, order[i + 1].first);
    EXPECT_EQ(order[i].first, order[i + 2].first);
  }
}

TEST(BlockOrder, DependsOnSeedAndBlockAlone) {
  EXPECT_EQ(order_of(1, 0), order_of(1, 0));
  EXPECT_NE(order_of(1, 0), order_of(1, 1));
  EXPECT_NE(order_of(1, 0), order_of(2, 0));
}

TEST(BlockOrder, ChecksAreDrawnApartFromTheOrderOfRuns) {
  const auto drawn = [](std::uint64_t seed, int block) {
    std::vector<std::pair<std::int64_t, std::size_t>> order;
    for (const Cell& cell : check_order(grid(3, 8), seed, block)) order.emplace_back(cell.count, cell.series);
    return order;
  };
  const auto one = drawn(1, 0);
  EXPECT_EQ(std::set(one.begin(), one.end()).size(), 24U);
  EXPECT_EQ(one, drawn(1, 0));
  EXPECT_NE(one, drawn(1, 1));
  EXPECT_NE(one, drawn(2, 0));
}

TEST(BlockOrder, PrefersNoCount) {
  std::vector<int> first(9, 0);
  for (int block = 0; block < 800; ++block) ++first[static_cast<std::size_t>(order_of(7, block).front().first)];
  for (std::size_t count = 1; count <= 8; ++count) EXPECT_NEAR(first[count], 100, 45) << count;
}

}  // namespace
}  // namespace mileage
