#include "analysis/statistics/interpolant.h"

#include <cmath>

#include <gtest/gtest.h>

namespace mileage {
namespace {

const Law proportional{LawKind::linear, 0, {1e-4}, 0, {}};
const Law bent_at_2000{LawKind::one_knee, 0, {1e-4, 3e-4}, 0, {2000}};

/// Points that lie above a law by so much, on the log scale.
Points above(const Law& law, std::initializer_list<std::pair<double, double>> points) {
  const auto size = static_cast<Eigen::Index>(points.size());
  Points all{Eigen::ArrayXd(size), Eigen::ArrayXd(size), Eigen::ArrayXd::Constant(size, 8)};
  Eigen::Index i = 0;
  for (const auto& [x, by] : points) {
    all.x(i) = x;
    all.log_ms(i++) = mileage::log_ms_at(law, x) + by;
  }
  return all;
}

TEST(Interpolant, HasTheShapeOfItsLawAndTheSlowdownOfThePoints) {
  const Interpolant interpolant(above(bent_at_2000, {{1000, 0.02}, {4000, 0.04}, {16'000, 0.04}}), bent_at_2000);
  EXPECT_NEAR(interpolant.log_ms_at(1000), mileage::log_ms_at(bent_at_2000, 1000) + 0.02, 1e-12);
  EXPECT_NEAR(interpolant.log_ms_at(2000), mileage::log_ms_at(bent_at_2000, 2000) + 0.03, 1e-12)
      << "half way between 1000 and 4000";
  EXPECT_NEAR(interpolant.log_ms_at(8000), mileage::log_ms_at(bent_at_2000, 8000) + 0.04, 1e-12);
}

TEST(Interpolant, KeepsTheSlowdownOfItsEndsBeyondThem) {
  const Interpolant interpolant(above(proportional, {{1000, 0.02}, {4000, 0.05}}), proportional);
  EXPECT_NEAR(interpolant.log_ms_at(10), mileage::log_ms_at(proportional, 10) + 0.02, 1e-12);
  EXPECT_NEAR(interpolant.log_ms_at(40'000), mileage::log_ms_at(proportional, 40'000) + 0.05, 1e-12);
}

TEST(Interpolant, WithoutALawIsStraightAndEndsWithItsPoints) {
  const Interpolant interpolant(above(proportional, {{1000, 0}, {4000, 0}}), std::nullopt);
  EXPECT_NEAR(interpolant.log_ms_at(2000), mileage::log_ms_at(proportional, 2000), 1e-12);
  EXPECT_NEAR(interpolant.log_ms_at(40'000), mileage::log_ms_at(proportional, 4000), 1e-12);
  const Interpolant one(above(proportional, {{1000, 0.02}}), std::nullopt);
  EXPECT_NEAR(one.log_ms_at(7), mileage::log_ms_at(proportional, 1000) + 0.02, 1e-12);
}

TEST(Interpolant, TakesPointsThatStandCloseTogetherAsOne) {
  Points points = above(proportional, {{100, 0}, {1000, 0.02}, {1150, -0.02}, {10'000, 0}});
  EXPECT_NEAR(Interpolant(points, proportional).log_ms_at(std::sqrt(1000.0 * 1150)),
              mileage::log_ms_at(proportional, std::sqrt(1000.0 * 1150)), 1e-12);
  points.weight(2) = 24;
  const double middle = std::exp((std::log(1000) + 3 * std::log(1150)) / 4);
  EXPECT_NEAR(Interpolant(points, proportional).log_ms_at(middle), mileage::log_ms_at(proportional, middle) - 0.01,
              1e-12);
}

TEST(Interpolant, KeepsAStrayRunThatStandsAloneInAWideGap) {
  Points points = above(proportional, {{100, 0}, {700, 0}, {2000, 0.1}, {7000, 0}, {16'000, 0}});
  points.weight(2) = 1;
  EXPECT_NEAR(Interpolant(points, proportional).log_ms_at(2000), mileage::log_ms_at(proportional, 2000) + 0.1, 1e-12);
}

TEST(Interpolant, PassesByAStrayRunButForTheEnds) {
  Points points = above(proportional, {{100, 0.5}, {1000, 0}, {2000, 0.4}, {3500, 0}, {16'000, 0}});
  points.weight(0) = points.weight(2) = 1;
  const Interpolant interpolant(points, proportional);
  EXPECT_NEAR(interpolant.log_ms_at(2000), mileage::log_ms_at(proportional, 2000), 1e-12);
  EXPECT_NEAR(interpolant.log_ms_at(100), mileage::log_ms_at(proportional, 100) + 0.5, 1e-12);
}

TEST(Interpolant, BendsByWhatNoiseDoesNotExplain) {
  const Interpolant interpolant(above(proportional, {{100, 0}, {1000, 0.06}, {10'000, 0}}), proportional);
  const double x = std::sqrt(100.0 * 1000);
  EXPECT_NEAR(*interpolant.curved_log_ms_at(x), mileage::log_ms_at(proportional, x) + 0.045, 1e-12)
      << "a parabola with its top at 1000";
  EXPECT_NEAR(interpolant.bend_at(x, 0).half_width(), 0.015, 1e-12);
  EXPECT_LT(interpolant.bend_at(x, 0.0001).half_width(), 0.015);
  EXPECT_GT(interpolant.bend_at(x, 0.0001).half_width(), 0.01);
  EXPECT_EQ(interpolant.bend_at(x, 0.04).half_width(), 0) << "runs scatter by a fifth";
  EXPECT_NEAR(interpolant.bend_at(1000, 0).half_width(), 0, 1e-12) << "on a point";
}

TEST(Interpolant, ABendThatTwoCurvesShareIsNoneOfTheirDifference) {
  const Interpolant one(above(proportional, {{100, 0}, {1000, 0.06}, {10'000, 0}}), proportional);
  const Interpolant other(above(proportional, {{100, 0.5}, {1000, 0.56}, {10'000, 0.5}}), proportional);
  const Interpolant against(above(proportional, {{100, 0}, {1000, -0.06}, {10'000, 0}}), proportional);
  const Bend bend = one.bend_at(316, 0);
  EXPECT_NEAR(bend.less(other.bend_at(316, 0), 1).half_width(), 0, 1e-12);
  EXPECT_NEAR(bend.less(other.bend_at(316, 0), 0.5).half_width(), bend.half_width() / 2, 1e-12);
  EXPECT_NEAR(bend.less(against.bend_at(316, 0), 1).half_width(), 2 * bend.half_width(), 1e-12);
  EXPECT_NEAR((Bend{0.03, 0, 0.02, 0.04}.half_width()), 0.05, 1e-12) << "two looks at one bend, and a step";
  EXPECT_NEAR((Bend{0.03, 0, 0, 0.3}.less({0.01, 0, 0, 0.4}, 1).step), 0.5, 1e-12) << "steps have no sign";
  const Bend noisy{0.03, 0.0004, 0, 0};
  EXPECT_NEAR(noisy.half_width(), std::sqrt(0.0005), 1e-12);
  EXPECT_EQ(noisy.less({}, 1).half_width(), 0) << "that is noise, where two curves have the chance of it";
}

TEST(Interpolant, HasNoParabolaWithoutThreeGroupsOrBesideThem) {
  const Interpolant two(above(proportional, {{100, 0}, {1000, 0.1}}), proportional);
  EXPECT_FALSE(two.curved_log_ms_at(300));
  EXPECT_EQ(two.bend_at(300, 0).half_width(), 0);
  const Interpolant three(above(proportional, {{100, 0}, {1000, 0.1}, {10'000, 0}}), proportional);
  EXPECT_FALSE(three.curved_log_ms_at(50));
  EXPECT_EQ(three.bend_at(50'000, 0).half_width(), 0);
}

TEST(Interpolant, KnowsWhetherAKneeIsHiddenBetweenItsGroups) {
  const Interpolant interpolant(above(bent_at_2000, {{100, 0}, {1000, 0}, {4000, 0}, {16'000, 0}}), bent_at_2000);
  EXPECT_TRUE(interpolant.has_knee_around(1500));
  EXPECT_TRUE(interpolant.has_knee_around(3500));
  EXPECT_FALSE(interpolant.has_knee_around(500));
  EXPECT_FALSE(interpolant.has_knee_around(8000));
  EXPECT_FALSE(interpolant.has_knee_around(50));
  EXPECT_FALSE(Interpolant(above(proportional, {{100, 0}, {1000, 0}}), std::nullopt).has_knee_around(500));
}

}  // namespace
}  // namespace mileage
