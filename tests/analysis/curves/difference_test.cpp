#include "analysis/curves/difference.h"

#include <cmath>
#include <vector>

#include <gtest/gtest.h>

namespace mileage {
namespace {

TEST(Difference, IsClearBeyondItsInterval) {
  EXPECT_TRUE((Difference{-0.3, {0.1, 4}}.is_clear()));  // Student's t of four degrees of freedom: 2.78
  EXPECT_FALSE((Difference{-0.27, {0.1, 4}}.is_clear()));
  EXPECT_FALSE((Difference{-0.3, {0.1, 4}}.is_clear(20))) << "one of many verdicts";
}

TEST(Difference, TellsNothingWithoutAnInterval) {
  const Difference difference{-3, {INFINITY}};
  EXPECT_FALSE(difference.is_clear());
  EXPECT_FALSE(difference.ratio_interval().low || difference.ratio_interval().high);
}

TEST(Difference, HasARatioInItsInterval) {
  const Difference difference{std::log(0.5), {0.1, 8}};  // t of eight degrees of freedom: 2.306
  EXPECT_NEAR(difference.ratio(), 0.5, 1e-12);
  EXPECT_NEAR(*difference.ratio_interval().low, 0.5 * std::exp(-0.2306), 1e-4);
  EXPECT_NEAR(*difference.ratio_interval().high, 0.5 * std::exp(0.2306), 1e-4);
}

/// A curve of this many ms at every place, that leaving blocks out moves by nothing, with a uncertainty about its
/// slowdown.
SeriesCurve flat_curve(double ms, double slowdown_uncertainty) {
  SeriesCurve curve;
  const std::vector<double> x{100, 1000, 10'000};
  curve.all = fit_curve(x, {Eigen::ArrayXXd::Constant(3, 4, std::log(ms)), {}});
  curve.leave_one_out.assign(4, curve.all);
  curve.block_counts.assign(4, true);
  curve.degrees_of_freedom = 3;
  curve.places = x;
  curve.adjustment.cost_covariance = Eigen::MatrixXd::Constant(3, 3, slowdown_uncertainty * slowdown_uncertainty);
  return curve;
}

TEST(Pair, OfEachSeriesHoldsWhatNoSlowdownTells) {
  SeriesCurve one = flat_curve(4, 0);
  SeriesCurve other = flat_curve(1, 0);
  EXPECT_NEAR(Pair(one, other).at(1000).error.value, 0, 1e-6);
  one.adjustment.unexplained_variance = 0.03 * 0.03;
  other.adjustment.unexplained_variance = 0.04 * 0.04;
  EXPECT_NEAR(Pair(one, other).at(1000).error.value, 0.05, 1e-6);
}

TEST(Pair, WorthCountsTheDoubtOfTheOtherAsFarAsTheOtherCounts) {
  const SeriesCurve sure = flat_curve(4, 0);
  const SeriesCurve doubted = flat_curve(1, 0.1);
  const Pair pair(sure, doubted);
  const double error = pair.at(1000).error.value;
  EXPECT_GT(error, 0.05);
  EXPECT_NEAR(pair.at_min_saving(1000, 3).error.value, error / 4, 1e-9) << "1 of 1 + 3 ms";
  EXPECT_NEAR(pair.at_min_saving(1000, 3).log_ratio, 0, 1e-9);
  EXPECT_NEAR(Pair(doubted, sure).at_min_saving(1000, 3).error.value, error, 1e-9) << "its own doubt counts whole";
}

}  // namespace
}  // namespace mileage
