#include "analysis/model/readings.h"

#include <cmath>
#include <limits>

#include <gtest/gtest.h>

namespace mileage {
namespace {

/// Draws of lines in log-log: draw d of a series costs `ms` times 1 + d / 1000 at a count of 1,000.
Draws lines(const std::vector<double>& ms, const std::vector<double>& exponents) {
  Draws draws;
  for (int i = 0; i <= 40; ++i) draws.log_x.push_back(std::log(100) + i * std::log(100) / 40);
  for (std::size_t series = 0; series < ms.size(); ++series) {
    Eigen::MatrixXd log_ms(101, 41);
    for (int draw = 0; draw <= 100; ++draw)
      for (int i = 0; i < 41; ++i)
        log_ms(draw, i) = std::log(ms[series] * (1 + (draw - 50) / 1000.0)) +
                          exponents[series] * (draws.log_x[static_cast<std::size_t>(i)] - std::log(1000));
    draws.log_ms.push_back(log_ms);
  }
  return draws;
}

const double beyond = std::log(1e6);

TEST(Readings, AreTheMiddleDrawAndWhat95PercentAreBetween) {
  std::vector<double> values;
  for (int i = 0; i <= 1000; ++i) values.push_back(i + 1);
  const Drawn drawn = quantiles(values);
  EXPECT_EQ(drawn.middle, 501);
  EXPECT_EQ(drawn.interval.low, 26);
  EXPECT_EQ(drawn.interval.high, 976);
}

TEST(Readings, AnEndIsOpenWhereDrawsHaveNoSuchNumber) {
  const Drawn drawn = quantiles({1, 2, 3, 4, std::numeric_limits<double>::infinity()});
  EXPECT_EQ(drawn.middle, 3);
  EXPECT_EQ(drawn.interval.low, 1);
  EXPECT_FALSE(drawn.interval.high);
}

TEST(Readings, CostsRatiosAndExponents) {
  const Draws draws = lines({2, 1}, {1, 0.5});
  EXPECT_NEAR(drawn_cost(draws, 0, 20).middle, 2, 1e-9);
  EXPECT_NEAR(drawn_ratio(draws, 1, 0, 20).middle, 0.5, 1e-9);
  EXPECT_NEAR(*drawn_ratio(draws, 1, 0, 20).interval.low, 0.5, 1e-9) << "both are slow in the same draws";
  EXPECT_NEAR(drawn_exponent(draws, 1, 20).middle, 0.5, 1e-9);
  EXPECT_NEAR(drawn_exponent(draws, 0, 0).middle, 1, 1e-9);
}

TEST(Readings, ACapacityIsWhereDrawsRiseThroughTheBudget) {
  const Draws draws = lines({2}, {1});
  EXPECT_NEAR(drawn_capacity(draws, 0, 4, beyond).middle, 2000, 1);
  EXPECT_TRUE(drawn_capacity(draws, 0, 4, beyond).interval.closed());
  EXPECT_FALSE(drawn_capacity(draws, 0, 4, std::log(2000)).interval.high) << "no place of the draws is above 2,000";
  EXPECT_TRUE(std::isinf(drawn_capacity(draws, 0, 100, beyond).middle));
  EXPECT_EQ(drawn_capacity(draws, 0, 0.01, beyond).middle, 0) << "over it everywhere";
}

TEST(Readings, ABreakEvenNeedsASlowerAndAFasterSide) {
  const Draws crossing = lines({1, 1}, {1, 0.5});
  const auto even = drawn_break_even(crossing, 0, 1, beyond);
  ASSERT_TRUE(even);
  EXPECT_NEAR(even->middle, 1000, 1);
  EXPECT_FALSE(drawn_break_even(crossing, 1, 0, beyond)) << "the other way round it is faster first";
  EXPECT_FALSE(drawn_break_even(lines({1, 0.5}, {1, 1}), 0, 1, beyond)) << "faster everywhere";
  EXPECT_FALSE(drawn_break_even(crossing, 0, 1, std::log(500))) << "not faster up to there";
}

TEST(Readings, ASwitchPaysOffFromWhereItSavesEnoughForGood) {
  const Draws draws = lines({2, 1}, {1, 1});  // saves a thousandth of a ms per entity
  const auto pays = drawn_pays_off_from(draws, 0, 1, 0.5, beyond);
  ASSERT_TRUE(pays);
  EXPECT_NEAR(pays->middle, 500, 15);
  EXPECT_FALSE(drawn_pays_off_from(draws, 1, 0, 0.5, beyond));
  EXPECT_FALSE(drawn_pays_off_from(draws, 0, 1, 20, beyond)) << "not even at the last place";
  EXPECT_FALSE(drawn_pays_off_from(draws, 0, 1, 0.01, beyond)->interval.low) << "from the first place on";
}

}  // namespace
}  // namespace mileage
