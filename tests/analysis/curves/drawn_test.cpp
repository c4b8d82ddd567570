#include "analysis/curves/drawn.h"

#include <limits>

#include <gtest/gtest.h>

namespace mileage {
namespace {

const double never = std::numeric_limits<double>::infinity();

Drawn from_1_to(Eigen::Index last) { return Drawn::LinSpaced(last, 1, static_cast<double>(last)); }

TEST(Readings, AreTheMiddleDrawAndWhat95PercentAreBetween) {
  const Drawn drawn = from_1_to(1001);
  EXPECT_EQ(middle_of(drawn), 501);
  EXPECT_EQ(interval_of(drawn).low, 25);
  EXPECT_EQ(interval_of(drawn).high, 977);
}

TEST(Readings, SeveralIntervalsGivenTogetherAreWider) {
  EXPECT_EQ(interval_of(from_1_to(1001), 5).low, 5);
  EXPECT_EQ(interval_of(from_1_to(1001), 5).high, 997);
  EXPECT_EQ(interval_of(from_1_to(1001), 500).low, 1) << "no draw is surer";
}

TEST(Readings, AnEndIsOpenWhereDrawsHaveNoSuchNumber) {
  Drawn drawn = from_1_to(5);
  drawn(0) = never;
  EXPECT_EQ(middle_of(drawn), 4);
  EXPECT_EQ(interval_of(drawn).low, 2);
  EXPECT_FALSE(interval_of(drawn).high);
  EXPECT_FALSE(interval_of(-drawn).low);
}

TEST(Readings, AVerdictIsThatTheIntervalExcludesZero) {
  Drawn drawn = Drawn::Ones(1000);
  drawn.head(24) = -1;
  EXPECT_TRUE(is_surely_positive(drawn));
  EXPECT_GT(interval_of(drawn).low, 0);
  EXPECT_FALSE(is_surely_positive(drawn, 2)) << "two verdicts given together";
  drawn(24) = 0;
  EXPECT_FALSE(is_surely_positive(drawn));
  EXPECT_EQ(interval_of(drawn).low, 0);
  EXPECT_TRUE(is_surely_positive(Drawn::Ones(1000), 500)) << "no draw contradicts";
  EXPECT_FALSE(is_surely_positive(-drawn));
}

}  // namespace
}  // namespace mileage
