#include "analysis/statistics/local_reading.h"

#include <cmath>

#include <gtest/gtest.h>

namespace mileage {
namespace {

Eigen::ArrayXd places(std::initializer_list<double> values) {
  Eigen::ArrayXd all(static_cast<Eigen::Index>(values.size()));
  std::copy(values.begin(), values.end(), all.begin());
  return all;
}

Points points_at(const Eigen::ArrayXd& x, double exponent, double bend) {
  return {x, exponent * (x / 1000).log() + bend * (x / 1000).log().square(), Eigen::ArrayXd::Constant(x.size(), 5)};
}

TEST(Window, TakesTheFiveNearestPointsWhereTheyStandClose) {
  const auto window = window_around(points_at(places({100, 740, 860, 1000, 1160, 1350, 10'000}), 1, 0), 1020);
  ASSERT_TRUE(window);
  EXPECT_EQ(window->min, 740);
  EXPECT_EQ(window->max, 1350);
}

TEST(Window, TakesThreeWhereOnlyThoseStandClose) {
  const auto window = window_around(points_at(places({100, 820, 1000, 1220, 10'000}), 1, 0), 1020);
  ASSERT_TRUE(window);
  EXPECT_EQ(window->min, 820);
  EXPECT_EQ(window->max, 1220);
}

TEST(Window, PassesByWhatWasMeasuredSeldom) {
  Points points = points_at(places({100, 740, 860, 990, 1000, 1020, 1040, 1160, 1350, 10'000}), 1, 0);
  for (const Eigen::Index seldom : {3, 5, 6}) points.weight(seldom) = 1;
  const auto window = window_around(points, 1020);
  ASSERT_TRUE(window);
  EXPECT_EQ(window->min, 740);
  EXPECT_EQ(window->max, 1350);
}

TEST(Window, IsNotWhatStandsSideBySide) {
  EXPECT_FALSE(window_around(points_at(places({100, 990, 1000, 1010, 1020, 1030, 10'000}), 1, 0), 1005));
  const auto window =
      window_around(points_at(places({100, 740, 860, 990, 1000, 1010, 1160, 1350, 10'000}), 1, 0), 1005);
  ASSERT_TRUE(window);
  EXPECT_EQ(window->min, 740);
  EXPECT_EQ(window->max, 1350);
}

TEST(Window, IsNoneWhereStrayRunsStandAlone) {
  Points points = points_at(places({100, 240, 560, 860, 1000, 1160, 1900, 4500, 10'000}), 1, 0);
  for (const Eigen::Index stray : {3, 4, 5}) points.weight(stray) = 1;
  EXPECT_FALSE(window_around(points, 1020));
  points.weight.setConstant(1);
  EXPECT_TRUE(window_around(points, 1020)) << "all points were measured as seldom";
}

TEST(Window, WidensByAFactor) {
  EXPECT_EQ(wide_window_around(points_at(places({100, 240, 560, 1330, 3160, 7500}), 1, 0), 1000, 3), std::nullopt)
      << "fewer than five points";
  const auto window = wide_window_around(points_at(places({100, 400, 560, 800, 1330, 2900, 7500}), 1, 0), 1000, 3);
  ASSERT_TRUE(window);
  EXPECT_EQ(window->min, 400);
  EXPECT_EQ(window->max, 2900);
}

TEST(Window, IsNoneOnALadderAndAtItsEnds) {
  EXPECT_FALSE(window_around(points_at(places({100, 300, 1000, 3000, 10'000}), 1, 0), 1000));
  EXPECT_FALSE(window_around(points_at(places({700, 800, 900, 1000, 1100}), 1, 0), 1200));
  EXPECT_FALSE(window_around(points_at(places({1000}), 1, 0), 1000));
}

TEST(LocalFit, FollowsABendThatAStraightLineMisses) {
  const Points points = points_at(places({740, 860, 1000, 1160, 1350}), 1.2, 0.8);
  const auto fit = LocalFit::through(points, {740, 1350}, {});
  for (const double x : {750.0, 1000.0, 1300.0})
    EXPECT_NEAR(fit->value_at(x), 1.2 * std::log(x / 1000) + 0.8 * std::pow(std::log(x / 1000), 2), 1e-9);
}

TEST(LocalFit, FindsTheCrossingOfTheWantedDirection) {
  const Points points = points_at(places({740, 860, 1000, 1160, 1350}), 1.2, 0);
  const auto fit = LocalFit::through(points, {740, 1350}, {});
  EXPECT_NEAR(*fit->crossing(1.2 * std::log(1.1), true), 1100, 1e-6);
  EXPECT_FALSE(fit->crossing(0.1, false));
  EXPECT_FALSE(fit->crossing(5, true));  // far outside the window
}

TEST(LocalFit, WidensWherePointsScatterByMoreThanTheirNoise) {
  Points points = points_at(places({740, 860, 1000, 1160, 1350}), 1, 0);
  const Noise noise{0.01 * 0.01, 40};  // of a run; five of them a point
  const auto scatter = [&](const Noise& one) { return LocalFit::through(points, {740, 1350}, one)->scatter_at(1000); };
  EXPECT_EQ(scatter(noise), 0);
  points.log_ms(2) += 0.1;  // a count that is a tenth slower in every block
  EXPECT_GT(scatter(noise), 0.05);
  EXPECT_EQ(scatter({0.2 * 0.2, 40}), 0) << "noise explains it";
  EXPECT_EQ(scatter({}), 0) << "nothing was repeated: nothing to hold it against";
  points = points_at(places({860, 1000, 1160}), 1, 0);
  points.log_ms(1) += 0.1;
  EXPECT_EQ(scatter(noise), 0) << "a parabola fits any three";
}

// As a study on a loaded machine had it: a run before the counts were placed better, which was slow.
TEST(LocalFit, AStrayRunIsNoScatter) {
  Points points = points_at(places({660, 810, 880, 1000}), 1, 0);
  points.log_ms(2) += 0.2;
  const auto scatter = [&] { return LocalFit::through(points, {660, 1000}, {0.05 * 0.05, 40})->scatter_at(1000); };
  EXPECT_GT(scatter(), 0.15) << "of a count that is slower in every block";
  points.weight(2) = 1;
  EXPECT_EQ(scatter(), 0);
}

// As a study of seven blocks beside a busy neighbour had it: alone, one degree of freedom made 80 % of half-width of a
// count that was 6 % slower.
TEST(LocalFit, ScatterOfOneDegreeIsHeldAgainstUsualQuirks) {
  Points points = points_at(places({860, 950, 990, 1050}), 1, 0);
  points.log_ms(2) += 0.2;
  const double scatter = LocalFit::through(points, {860, 1050}, {0.045 * 0.045, 31})->scatter_at(960);
  EXPECT_GT(scatter, 0.08);
  EXPECT_LT(scatter, 0.2);
}

// A count whose runs were slow lies beside its neighbours as far as it is uncertain what that takes off.
TEST(LocalFit, DoubtOfPointsIsNoScatter) {
  Points points = points_at(places({660, 810, 880, 1000}), 1, 0);
  points.log_ms(2) += 0.2;
  points.uncertainty = Eigen::MatrixXd::Zero(4, 4);
  points.uncertainty(2, 2) = 0.2 * 0.2;
  EXPECT_EQ(LocalFit::through(points, {660, 1000}, {0.05 * 0.05, 40})->scatter_at(1000), 0);
  points.uncertainty.setConstant(0.2 * 0.2);
  EXPECT_GT(LocalFit::through(points, {660, 1000}, {0.05 * 0.05, 40})->scatter_at(1000), 0.15)
      << "a doubt that all share lifts none above the others";
}

TEST(LocalFit, LivesWithHolesDownToTwoPoints) {
  EXPECT_TRUE(LocalFit::through(points_at(places({860, 1160}), 1, 0), {740, 1350}, {}));
  EXPECT_FALSE(LocalFit::through(points_at(places({100, 1160}), 1, 0), {740, 1350}, {}));
}

// The middle one of three points lies 0.06 too high by chance: a straight line makes 0.02 of it.
TEST(LocalFit, NoisyPointsBendItNoFartherThanCostsBend) {
  Points points = points_at(places({820, 1000, 1220}), 1, 0);
  points.log_ms(1) += 0.06;
  const auto fit = LocalFit::through(points, {820, 1220}, {0.1 * 0.1, 40});
  EXPECT_NEAR(fit->value_at(1000), 0.02, 0.004);
  EXPECT_NEAR(fit->error_at(1000), 0.1 / std::sqrt(15), 0.004) << "all fifteen runs tell of it";
  EXPECT_NEAR(LocalFit::through(points, {820, 1220}, {})->value_at(1000), 0.06, 1e-9);
}

TEST(LocalFit, PointsThatAreKnownWellBendItAsTheyDo) {
  const Points points = points_at(places({820, 1000, 1220}), 1, 0.6);
  EXPECT_NEAR(LocalFit::through(points, {820, 1220}, {0.002 * 0.002, 40})->value_at(1000), 0, 0.001);
  EXPECT_NEAR(LocalFit::through(points, {820, 1220}, {0.1 * 0.1, 40})->value_at(1000),
              0.6 * std::pow(std::log(1.22), 2) * 2 / 3, 0.002)
      << "as a straight line reads it";
}

}  // namespace
}  // namespace mileage
