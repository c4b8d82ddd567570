#include "types/order_statistics.h"

#include <algorithm>
#include <cmath>
#include <random>

#include <gtest/gtest.h>

namespace mileage {
namespace {

TEST(Median, OfOddAndEvenNumbers) {
  EXPECT_EQ(median({3, 1, 2}), 2);
  EXPECT_EQ(median({4, 1, 3, 2}), 2.5);
  EXPECT_EQ(median({7}), 7);
}

TEST(Median, DoesNotDependOnTheOrderAndHoldsAtLargeOffsets) {
  std::vector<double> values;
  for (int i = 0; i < 101; ++i) values.push_back(1e12 + i);
  std::mt19937 random(7);
  std::shuffle(values.begin(), values.end(), random);
  EXPECT_EQ(median(values), 1e12 + 50);
}

TEST(RobustDeviation, MatchesTheNormalAndIgnoresASpike) {
  std::mt19937 random(3);
  std::normal_distribution<double> normal(5, 2);
  std::vector<double> values;
  for (int i = 0; i < 20'000; ++i) values.push_back(normal(random));
  EXPECT_NEAR(robust_sd(values), 2, 0.05);
  values[0] = 1e9;
  EXPECT_NEAR(robust_sd(values), 2, 0.05);
  EXPECT_EQ(robust_sd({4}), 0);
}

TEST(Percentile99, LeavesOneInAHundredAbove) {
  std::vector<float> values;
  for (int i = 1; i <= 999; ++i) values.push_back(static_cast<float>(i));
  std::shuffle(values.begin(), values.end(), std::mt19937(5));
  EXPECT_EQ(percentile_99(values), 990) << "k of n lies above k / (n + 1)";
  EXPECT_EQ(percentile_99({3, 7}), 7);
}

}  // namespace
}  // namespace mileage
