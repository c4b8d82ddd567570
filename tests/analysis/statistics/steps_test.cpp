#include "analysis/statistics/steps.h"

#include <algorithm>
#include <cmath>
#include <functional>

#include <gtest/gtest.h>

namespace mileage {
namespace {

const Noise noise_of_two_percent{0.02 * 0.02, 40};

Points points_of(std::vector<double> x, const std::function<double(double)>& ms, double runs = 8) {
  const auto size = static_cast<Eigen::Index>(x.size());
  Points points{Eigen::Map<Eigen::ArrayXd>(x.data(), size), Eigen::ArrayXd(size), Eigen::ArrayXd::Constant(size, runs)};
  for (Eigen::Index i = 0; i < size; ++i) points.log_ms(i) = std::log(ms(points.x(i)));
  return points;
}

std::vector<double> ladder(double from, double ratio, int size) {
  std::vector<double> x;
  for (int i = 0; i < size; ++i) x.push_back(std::round(from * std::pow(ratio, i)));
  return x;
}

double linear(double n) { return 1 + 1e-3 * n; }

TEST(Steps, FindsAJumpBetweenTwoPlacesAndHowLargeItIs) {
  const auto jumps = [](double n) { return linear(n) * (n < 20'000 ? 1 : 1.5); };
  const auto steps = find_steps(points_of(ladder(8000, 1.2, 10), jumps), noise_of_two_percent);
  ASSERT_EQ(steps.size(), 1U);
  EXPECT_LT(steps[0].before, 20'000);
  EXPECT_GE(steps[0].after, 20'000);
  EXPECT_NEAR(steps[0].after / steps[0].before, 1.2, 0.01);
  EXPECT_NEAR(std::exp(steps[0].log_jump), 1.5, 0.03);
}

// As a study beside a busy neighbour had it: one run of a quiet moment among slow ones.
TEST(Steps, TakesNoDoubtOfPointsForOne) {
  Points points = points_of(ladder(8000, 1.2, 10), linear);
  points.log_ms.tail(5) += 0.3;
  ASSERT_EQ(find_steps(points, noise_of_two_percent).size(), 1U);
  points.uncertainty = Eigen::MatrixXd::Constant(10, 10, 0.15 * 0.15);
  EXPECT_EQ(find_steps(points, noise_of_two_percent).size(), 1U) << "all share it";
  points.uncertainty.topRightCorner(5, 5).setZero();
  points.uncertainty.bottomLeftCorner(5, 5).setZero();
  EXPECT_TRUE(find_steps(points, noise_of_two_percent).empty());
}

TEST(Steps, FindsAFall) {
  const auto falls = [](double n) { return linear(n) / (n < 20'000 ? 1 : 2); };
  const auto steps = find_steps(points_of(ladder(8000, 1.2, 10), falls), noise_of_two_percent);
  ASSERT_EQ(steps.size(), 1U);
  EXPECT_NEAR(std::exp(steps[0].log_jump), 0.5, 0.02);
}

// A knee of three inside a wide gap rises as much as a jump does, log-log, but no more than in proportion to what
// follows.
TEST(Steps, TakesNoSmoothGrowthForOne) {
  const std::vector<std::function<double(double)>> smooth{
      linear,
      [](double n) { return 1 + 1e-7 * n * n; },
      [](double n) { return std::pow(n, 0.7); },
      [](double n) { return 1000 + std::min(n, 8000.0) + 3 * std::max(0.0, n - 8000); },
      [](double n) { return 1000 + std::min(n, 14'000.0) + 5 * std::max(0.0, n - 14'000); },
      [](double n) { return (1000 + n) * (1 + 0.25 / (1 + std::pow(9000 / n, 1.8))); },
  };
  for (std::size_t i = 0; i < smooth.size(); ++i) {
    EXPECT_TRUE(find_steps(points_of(ladder(100, 2.4, 8), smooth[i]), noise_of_two_percent).empty()) << i;
    EXPECT_TRUE(find_steps(points_of(ladder(4000, 1.15, 16), smooth[i]), noise_of_two_percent).empty()) << i;
  }
}

TEST(Steps, WantsTwoPlacesOnEitherSideAndMoreThanNoise) {
  const auto jumps = [](double n) { return linear(n) * (n < 20'000 ? 1 : 1.5); };
  EXPECT_TRUE(find_steps(points_of({12'000, 16'000, 22'000}, jumps), noise_of_two_percent).empty());
  EXPECT_TRUE(find_steps(points_of({16'000, 22'000, 30'000}, jumps), noise_of_two_percent).empty());
  const Points points = points_of(ladder(8000, 1.2, 10), jumps);
  EXPECT_TRUE(find_steps(points, {0.3 * 0.3, 40}).empty());
  EXPECT_TRUE(find_steps(points, {0.02 * 0.02, 0}).empty());
}

// With gaps of one width, 95 % of noise move what a gap rises beside a neighbour by at most 2.021 (Student's t) x
// sqrt(4 / 8 + 1 / 8 + 1 / 8) deviations. The jump rises by log(1.2 x 1.3), where the gap behind it would rise by
// log(1 + 0.2 x 1.3) in proportion: a deviation of 0.122 is the limit.
TEST(Steps, PassTheLimitOfNoiseByASeventh) {
  const Points points = points_of(ladder(8000, 1.2, 10), [](double n) { return 1e-3 * n * (n < 20'000 ? 1 : 1.3); });
  EXPECT_EQ(find_steps(points, {std::pow(0.122 / 1.2, 2), 40}).size(), 1U);
  EXPECT_TRUE(find_steps(points, {std::pow(0.122 / 1.1, 2), 40}).empty());
}

TEST(Steps, AreNoSpikesOfSingleRuns) {
  Points points = points_of(ladder(8000, 1.2, 12), linear, 10);
  points.log_ms(6) += 0.4;
  EXPECT_FALSE(find_steps(points, noise_of_two_percent).empty());
  points.weight(6) = 1;
  EXPECT_TRUE(find_steps(points, noise_of_two_percent).empty());
}

TEST(Steps, AreNotToldOverWideGaps) {
  const auto jumps = [](double n) { return linear(n) * (n < 20'000 ? 1 : 3); };
  EXPECT_FALSE(find_steps(points_of(ladder(2000, 2.4, 8), jumps), noise_of_two_percent).empty());
  EXPECT_TRUE(find_steps(points_of(ladder(1000, 2.7, 8), jumps), noise_of_two_percent).empty());
}

TEST(Steps, TakesThemOutOfThePoints) {
  const auto jumps = [](double n) { return 1e-3 * n * (n < 20'000 ? 1 : 1.5); };
  const Points points = points_of(ladder(8000, 1.2, 10), jumps);
  const Points smooth = without_steps(points, find_steps(points, noise_of_two_percent));
  for (Eigen::Index i = 0; i < smooth.x.size(); ++i)
    EXPECT_NEAR(std::exp(smooth.log_ms(i)), 1.5e-3 * smooth.x(i), 1e-6 * smooth.x(i));
}

TEST(Steps, KeepsToOneSide) {
  const Points points = points_of({10, 12, 14, 16}, linear);
  const std::vector<Step> steps{{12, 14, 0.5}};
  EXPECT_EQ(on_the_side_of(11, points, steps).x.size(), 2);
  EXPECT_EQ(on_the_side_of(15, points, steps).x(0), 14);
  EXPECT_EQ(on_the_side_of(13, points, steps).x.size(), 0);
  EXPECT_TRUE(is_step_between(16, 10, steps));
  EXPECT_FALSE(is_step_between(14, 16, steps));
  EXPECT_NE(step_at(13, steps), nullptr);
  EXPECT_EQ(step_at(14, steps), nullptr);
}

TEST(Steps, AreSeenAgainInOtherPointsAtTheSamePlaces) {
  const auto jumps = [](double n) { return linear(n) * (n < 20'000 ? 1 : 1.5); };
  const Points points = points_of(ladder(8000, 1.2, 10), jumps);
  const auto steps = find_steps(points, noise_of_two_percent);
  const Points doubled = points_of(ladder(8000, 1.2, 10), [&](double n) { return jumps(n) * (n < 20'000 ? 1 : 2); });
  ASSERT_EQ(steps_seen_by(doubled, steps).size(), 1U);
  EXPECT_NEAR(std::exp(steps_seen_by(doubled, steps)[0].log_jump), 3, 0.06);
  EXPECT_TRUE(steps_seen_by(points_of(ladder(30'000, 1.2, 10), jumps), steps).empty());
}

TEST(Steps, AreNotSeenByPointsThatLackOneOfTheirPlaces) {
  const auto jumps = [](double n) { return n * (n < 20'000 ? 1 : 3); };
  const std::vector<double> places = ladder(8000, 1.2, 10);
  const auto steps = find_steps(points_of(places, jumps), noise_of_two_percent);
  ASSERT_EQ(steps.size(), 1U);
  for (const double lost : {steps[0].before, steps[0].after}) {
    std::vector<double> rest = places;
    rest.erase(std::find(rest.begin(), rest.end(), lost));
    EXPECT_TRUE(steps_seen_by(points_of(rest, jumps), steps).empty()) << "without " << lost;
  }
}

}  // namespace
}  // namespace mileage
