#include "analysis/curves/pair.h"

#include <cmath>

#include <gtest/gtest.h>

#include "analysis/curves/made_curves.h"

namespace mileage {
namespace {

using made::curve_of;
using made::usual_places;

/// Slow in the same draws.
struct TwoLines : testing::Test {
  SeriesCurve objects = curve_of([](double n) { return 1e-3 * n; }, usual_places, 0.1);
  SeriesCurve columns = curve_of([](double n) { return 0.9e-3 * n; }, {1000, 3000, 10'000}, 0.1);
  Pair pair{objects, columns};
};

TEST_F(TwoLines, AreComparedWhereBothWereMeasured) {
  EXPECT_EQ(pair.min(), 1000);
  EXPECT_EQ(pair.max(), 10'000);
  EXPECT_EQ(pair.places(), 3U);
  EXPECT_NEAR(pair.drawn_places().front(), 1000, 1e-6);
  EXPECT_NEAR(pair.drawn_places().back(), 10'000, 1e-6);
}

TEST_F(TwoLines, WhatTheMachineDoesToBothIsNoUncertaintyOfTheirRatio) {
  const Difference difference = pair.at(3000);
  EXPECT_NEAR(difference.ratio(), 1 / 0.9, 1e-3);
  EXPECT_NEAR(*difference.ratio_interval().low, 1 / 0.9, 1e-3);
  EXPECT_EQ(difference.verdict(), 1) << "the one is slower";
  EXPECT_EQ(Pair(columns, objects).at(3000).verdict(), -1);
}

TEST_F(TwoLines, AVerdictNeedsMoreThanIndependentErrors) {
  const SeriesCurve other = curve_of([](double n) { return 0.9e-3 * n; }, usual_places, 0.1, 0, 2);
  EXPECT_EQ(Pair(objects, other).at(3000).verdict(), 0);
}

TEST_F(TwoLines, ASavingIsInMilliseconds) {
  EXPECT_NEAR(pair.saves_ms(10'000), -1, 0.02) << "the other takes less";
  EXPECT_NEAR(pair.saved_beyond(10'000, 0.4), 0.6, 0.02);
  EXPECT_TRUE(is_surely_positive(pair.drawn_saved_beyond(10'000, 0.4)));
  EXPECT_FALSE(is_surely_positive(pair.drawn_saved_beyond(1000, 0.4)));
}

}  // namespace
}  // namespace mileage
