#include "analysis/statistics/statistics.h"

#include <algorithm>
#include <cmath>
#include <random>

#include <gtest/gtest.h>

namespace mileage {
namespace {

// Values from printed tables.
TEST(Distributions, AgreeWithTables) {
  EXPECT_NEAR(t_quantile(0.975, 4), 2.776, 5e-4);
  EXPECT_NEAR(t_quantile(0.975, 7), 2.365, 5e-4);
  EXPECT_NEAR(t_factor(5), 2.776, 5e-4);
}

TEST(Jackknife, OfAMeanIsItsStandardError) {
  const std::vector<double> values{2, 4, 4, 5, 9};
  const double sum = 24;
  std::vector<double> without;
  for (const double value : values) without.push_back((sum - value) / 4);
  const double mean = sum / 5;
  double squares = 0;
  for (const double value : values) squares += (value - mean) * (value - mean);
  EXPECT_NEAR(jackknife_error(without), std::sqrt(squares / 4 / 5), 1e-12);
}

TEST(Jackknife, HasNoErrorBelowThreeBlocks) {
  EXPECT_TRUE(std::isinf(jackknife_error({1, 2})));
  EXPECT_TRUE(std::isfinite(jackknife_error({1, 2, 3})));
}

TEST(MedianInterval, IsBoundedByOrderStatistics) {
  EXPECT_FALSE(median_interval({1, 2, 3, 4, 5}).closed());
  const Interval six = median_interval({6, 1, 5, 2, 4, 3});
  EXPECT_EQ(six.low, 1);
  EXPECT_EQ(six.high, 6);
}

TEST(MedianInterval, HoldsTheMedianAsOftenAsItClaims) {
  std::mt19937 random(11);
  std::exponential_distribution<double> skewed(1);
  int held = 0;
  constexpr int trials = 2000;
  for (int trial = 0; trial < trials; ++trial) {
    std::vector<double> values;
    for (int i = 0; i < 40; ++i) values.push_back(skewed(random));
    const Interval interval = median_interval(values);
    held += *interval.low <= std::log(2) && std::log(2) <= *interval.high;
  }
  EXPECT_GT(held, 0.94 * trials);
  EXPECT_LT(held, 0.985 * trials);
}

PairedRatio ratio_at(double truth, double noise, std::uint64_t seed) {
  std::mt19937_64 random(seed);
  std::normal_distribution<double> normal(0, noise);
  std::vector<double> one, other;
  for (int i = 0; i < 200; ++i) {
    const double slowdown = std::exp(normal(random) * 5);  // shared by both of a pair
    one.push_back(truth * slowdown * std::exp(normal(random)));
    other.push_back(slowdown * std::exp(normal(random)));
  }
  return paired_ratio(one, other);
}

TEST(PairedRatio, TellsGainLossAndNoDifference) {
  EXPECT_EQ(ratio_at(0.9, 0.05, 1).verdict(), -1);
  EXPECT_EQ(ratio_at(1.1, 0.05, 2).verdict(), 1);
  EXPECT_EQ(ratio_at(1.0, 0.05, 3).verdict(), 0);
  EXPECT_NEAR(ratio_at(0.9, 0.05, 4).ratio, 0.9, 0.02);
}

TEST(PairedRatio, IsSurelyWithinOnlyWithItsWholeInterval) {
  EXPECT_TRUE(ratio_at(1.0, 0.02, 5).surely_within(0.98, 1.02));
  EXPECT_FALSE(ratio_at(1.02, 0.02, 6).surely_within(0.98, 1.02));
  EXPECT_FALSE(paired_ratio({1}, {1}).surely_within(0, 2));
}

}  // namespace
}  // namespace mileage
