#include "analysis/statistics/rough_step.h"

#include <gtest/gtest.h>

namespace mileage {
namespace {

std::map<std::int64_t, RoughPoint> jumping(int runs, double times) {
  std::map<std::int64_t, RoughPoint> points;
  for (const std::int64_t count : {4000, 5000, 6000, 7000, 8000, 9000})
    points[count] = {1e-3 * static_cast<double>(count) * (count < 6500 ? 1 : times), runs};
  return points;
}

TEST(RoughStep, IsTheGapInWhichTheSlowdownIsJumpedOver) {
  const auto gap = step_through(8, jumping(2, 1.8));
  ASSERT_TRUE(gap);
  EXPECT_EQ(gap->low, 6000);
  EXPECT_EQ(gap->high, 7000);
}

TEST(RoughStep, IsNoneWhereTheSlowdownIsPassedBesideIt) {
  EXPECT_FALSE(step_through(5.5, jumping(2, 1.8)));
  EXPECT_FALSE(step_through(13.5, jumping(2, 1.8)));
}

TEST(RoughStep, IsNoneWhereRunsMayScatterSoMuch) {
  EXPECT_FALSE(step_through(7, jumping(2, 1.2)));
  EXPECT_FALSE(step_through(8, jumping(1, 1.8))) << "a single run may be a spike";
  EXPECT_TRUE(step_through(7, jumping(12, 1.2)));
}

}  // namespace
}  // namespace mileage
