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
  EXPECT_NEAR(f_p_value(5.64, 3, 20), 0.00577, 5e-5);
  EXPECT_EQ(f_p_value(HUGE_VAL, 3, 20), 0);
  EXPECT_NEAR(t_factor(5), 2.776, 5e-4);
  EXPECT_NEAR(t_factor(5, 10), t_quantile(0.9975, 4), 1e-9);
}

TEST(StandardError, ASumIsKnownByAsMuchAsItsParts) {
  const StandardError of_two_alike = sum_of({{0.3, 4}, {0.3, 4}});
  EXPECT_NEAR(of_two_alike.value, 0.3 * std::sqrt(2), 1e-12);
  EXPECT_NEAR(of_two_alike.degrees_of_freedom, 8, 1e-9);
  const StandardError beside_a_given_one = sum_of({{0.3, 4}, {0.4}});
  EXPECT_NEAR(beside_a_given_one.value, 0.5, 1e-12);
  EXPECT_NEAR(beside_a_given_one.degrees_of_freedom, 4 * std::pow(25.0 / 9, 2), 1e-9);
  EXPECT_NEAR(beside_a_given_one.half_width(), 0.5 * t_quantile(0.975, 30.86), 1e-4);
  EXPECT_NEAR(beside_a_given_one.half_width(10), 0.5 * t_quantile(0.9975, 30.86), 1e-4);
  EXPECT_NEAR(StandardError{1}.half_width(), 1.96, 1e-3) << "of a normal distribution";
}

TEST(StandardError, OfNothingIsGiven) {
  EXPECT_EQ(sum_of({}).value, 0);
  EXPECT_TRUE(std::isinf(sum_of({{0, 4}}).degrees_of_freedom));
}

TEST(StandardError, ASumIsInfiniteWhereAPartIs) {
  const StandardError sum = sum_of({{HUGE_VAL, 2}, {0.1}});
  EXPECT_TRUE(std::isinf(sum.value));
  EXPECT_TRUE(std::isinf(sum.half_width()));
}

// Leaving out one value of a mean gives back the textbook standard error of the mean.
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
