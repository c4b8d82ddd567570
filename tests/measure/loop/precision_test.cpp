#include "measure/loop/precision.h"

#include <gtest/gtest.h>

namespace mileage {
namespace {

TEST(BlocksWanted, GrowWithTheSquareOfTheWidth) {
  EXPECT_EQ(blocks_wanted(5, 0.03, 0.03), 5);
  EXPECT_EQ(blocks_wanted(5, 0.01, 0.03), 5);
  EXPECT_EQ(blocks_wanted(5, 0.0608, 0.03), 20);
  EXPECT_EQ(blocks_wanted(5, 0.0301, 0.03), 6);
  EXPECT_EQ(blocks_wanted(5, std::nullopt, 0.03), 7);
}

}  // namespace
}  // namespace mileage
