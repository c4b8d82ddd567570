#include "analysis/course.h"

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
    all.log_ms(i++) = law.log_ms_at(x) + by;
  }
  return all;
}

TEST(Course, HasTheShapeOfItsLawAndTheLevelOfThePoints) {
  const Course course(above(bent_at_2000, {{1000, 0.02}, {4000, 0.04}, {16'000, 0.04}}), bent_at_2000);
  EXPECT_NEAR(course.log_ms_at(1000), bent_at_2000.log_ms_at(1000) + 0.02, 1e-12);
  EXPECT_NEAR(course.log_ms_at(2000), bent_at_2000.log_ms_at(2000) + 0.03, 1e-12) << "half way between 1000 and 4000";
  EXPECT_NEAR(course.log_ms_at(8000), bent_at_2000.log_ms_at(8000) + 0.04, 1e-12);
}

TEST(Course, KeepsTheLevelOfItsEndsBeyondThem) {
  const Course course(above(proportional, {{1000, 0.02}, {4000, 0.05}}), proportional);
  EXPECT_NEAR(course.log_ms_at(10), proportional.log_ms_at(10) + 0.02, 1e-12);
  EXPECT_NEAR(course.log_ms_at(40'000), proportional.log_ms_at(40'000) + 0.05, 1e-12);
}

TEST(Course, WithoutALawIsStraightAndEndsWithItsPoints) {
  const Course course(above(proportional, {{1000, 0}, {4000, 0}}), std::nullopt);
  EXPECT_NEAR(course.log_ms_at(2000), proportional.log_ms_at(2000), 1e-12);
  EXPECT_NEAR(course.log_ms_at(40'000), proportional.log_ms_at(4000), 1e-12);
  const Course one(above(proportional, {{1000, 0.02}}), std::nullopt);
  EXPECT_NEAR(one.log_ms_at(7), proportional.log_ms_at(1000) + 0.02, 1e-12);
}

TEST(Course, TakesPointsThatStandCloseTogetherAsOne) {
  Points points = above(proportional, {{100, 0}, {1000, 0.02}, {1150, -0.02}, {10'000, 0}});
  EXPECT_NEAR(Course(points, proportional).log_ms_at(std::sqrt(1000.0 * 1150)), proportional.log_ms_at(std::sqrt(1000.0 * 1150)), 1e-12);
  points.weight(2) = 24;
  const double middle = std::exp((std::log(1000) + 3 * std::log(1150)) / 4);
  EXPECT_NEAR(Course(points, proportional).log_ms_at(middle), proportional.log_ms_at(middle) - 0.01, 1e-12);
}

TEST(Course, KeepsAStrayVisitThatStandsAloneInAWideGap) {
  Points points = above(proportional, {{100, 0}, {700, 0}, {2000, 0.1}, {7000, 0}, {16'000, 0}});
  points.weight(2) = 1;
  EXPECT_NEAR(Course(points, proportional).log_ms_at(2000), proportional.log_ms_at(2000) + 0.1, 1e-12);
}

TEST(Course, PassesByAStrayVisitButForTheEnds) {
  Points points = above(proportional, {{100, 0.5}, {1000, 0}, {2000, 0.4}, {3500, 0}, {16'000, 0}});
  points.weight(0) = points.weight(2) = 1;
  const Course course(points, proportional);
  EXPECT_NEAR(course.log_ms_at(2000), proportional.log_ms_at(2000), 1e-12);
  EXPECT_NEAR(course.log_ms_at(100), proportional.log_ms_at(100) + 0.5, 1e-12);
}

TEST(Course, BendsByWhatNoiseDoesNotExplain) {
  const Course course(above(proportional, {{100, 0}, {1000, 0.06}, {10'000, 0}}), proportional);
  const double x = std::sqrt(100.0 * 1000);
  EXPECT_NEAR(*course.curved_log_ms_at(x), proportional.log_ms_at(x) + 0.045, 1e-12) << "a parabola with its top at 1000";
  EXPECT_NEAR(course.bend_at(x, 0), 0.015, 1e-12);
  EXPECT_LT(course.bend_at(x, 0.0001), 0.015);
  EXPECT_GT(course.bend_at(x, 0.0001), 0.01);
  EXPECT_EQ(course.bend_at(x, 0.04), 0) << "visits scatter by a fifth";
  EXPECT_NEAR(course.bend_at(1000, 0), 0, 1e-12) << "on a point";
}

TEST(Course, HasNoParabolaWithoutThreeGroupsOrBesideThem) {
  const Course two(above(proportional, {{100, 0}, {1000, 0.1}}), proportional);
  EXPECT_FALSE(two.curved_log_ms_at(300));
  EXPECT_EQ(two.bend_at(300, 0), 0);
  const Course three(above(proportional, {{100, 0}, {1000, 0.1}, {10'000, 0}}), proportional);
  EXPECT_FALSE(three.curved_log_ms_at(50));
  EXPECT_EQ(three.bend_at(50'000, 0), 0);
}

TEST(Course, KnowsWhetherAKneeIsHiddenBetweenItsGroups) {
  const Course course(above(bent_at_2000, {{100, 0}, {1000, 0}, {4000, 0}, {16'000, 0}}), bent_at_2000);
  EXPECT_TRUE(course.has_knee_around(1500));
  EXPECT_TRUE(course.has_knee_around(3500));
  EXPECT_FALSE(course.has_knee_around(500));
  EXPECT_FALSE(course.has_knee_around(8000));
  EXPECT_FALSE(course.has_knee_around(50));
  EXPECT_FALSE(Course(above(proportional, {{100, 0}, {1000, 0}}), std::nullopt).has_knee_around(500));
}

}  // namespace
}  // namespace mileage
