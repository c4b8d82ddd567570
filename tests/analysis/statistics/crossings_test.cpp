#include "analysis/statistics/crossings.h"

#include <cmath>

#include <gtest/gtest.h>

namespace mileage {
namespace {

TEST(Crossings, AreFoundWithTheirDirection) {
  const auto found = crossings([](double x) { return std::sin(std::log10(x) * 3.14159265358979); }, 3, 3e4);
  ASSERT_EQ(found.size(), 4U);  // at 10, 100, 1000, 10000
  EXPECT_NEAR(found[0].x, 10, 1e-6);
  EXPECT_FALSE(found[0].upward);
  EXPECT_NEAR(found[1].x, 100, 1e-5);
  EXPECT_TRUE(found[1].upward);
}

TEST(Crossings, ThereAreNoneWhereTheSignStays) {
  EXPECT_TRUE(crossings([](double) { return 1.0; }, 1, 1000).empty());
  EXPECT_TRUE(crossings([](double) { return 0.0; }, 1, 1000).empty());
}

TEST(Crossings, TheNearestOfADirectionIsChosenByRatio) {
  const std::vector<Crossing> all{{10, true}, {100, false}, {1000, true}};
  EXPECT_EQ(nearest_crossing(all, true, 90)->x, 10);
  EXPECT_EQ(nearest_crossing(all, true, 110)->x, 1000);
  EXPECT_EQ(nearest_crossing(all, false, 1)->x, 100);
  EXPECT_FALSE(nearest_crossing({}, true, 1));
}

TEST(Crossings, AreUnclearAsFarAsTheDifferenceIsInsideItsInterval) {
  const auto steep = [](double x) { return std::fabs(2 * std::log(x / 500)) > 0.1; };
  const Interval close = ambiguous_range(500, steep, {100, 1000});
  EXPECT_NEAR(std::log(500 / *close.low), 0.05, 1e-5);
  EXPECT_NEAR(std::log(*close.high / 500), 0.05, 1e-5);
  const auto flat_above = [](double x) { return x < 450; };
  const Interval open = ambiguous_range(500, flat_above, {100, 1000});
  EXPECT_NEAR(*open.low, 450, 0.01);
  EXPECT_FALSE(open.high);
}

TEST(PlacesBetween, HaveEqualRatiosAndBothEnds) {
  const auto places = places_between(1, 10'000, 5);
  EXPECT_NEAR(places[2], 100, 1e-9);
  EXPECT_EQ(places.front(), 1);
  EXPECT_EQ(places.back(), 10'000);
}

}  // namespace
}  // namespace mileage
