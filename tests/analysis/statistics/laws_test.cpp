#include "analysis/statistics/laws.h"

#include <cmath>

#include <gtest/gtest.h>

namespace mileage {

void PrintTo(const Law& law, std::ostream* out) {
  *out << static_cast<int>(law.kind) << ": " << law.fixed_ms;
  for (const double coefficient : law.coefficients) *out << ", " << coefficient;
  for (const double knee : law.knees) *out << " at " << knee;
}

namespace {

Points points_of(const Law& law, double factor_of_every_second = 1) {
  Points points;
  points.x = Eigen::ArrayXd::LinSpaced(10, std::log(100), std::log(100'000)).exp();
  points.log_ms = Eigen::ArrayXd(10);
  points.weight = Eigen::ArrayXd::Constant(10, 5);
  for (Eigen::Index i = 0; i < 10; ++i)
    points.log_ms(i) = log_ms_at(law, points.x(i)) + (i % 2 == 0 ? 0 : std::log(factor_of_every_second));
  return points;
}

class KnownLaw : public testing::TestWithParam<Law> {};

TEST_P(KnownLaw, IsFoundAgainFromItsOwnPoints) {
  const Law truth = GetParam();
  const auto fit = fit_law(truth.kind, points_of(truth));
  ASSERT_TRUE(fit);
  EXPECT_NEAR(fit->squared_residuals, 0, 1e-12);
  EXPECT_NEAR(fit->law.fixed_ms, truth.fixed_ms, 1e-6 * (truth.fixed_ms + 1e-3));
  ASSERT_EQ(fit->law.coefficients.size(), truth.coefficients.size());
  for (std::size_t i = 0; i < truth.coefficients.size(); ++i)
    EXPECT_NEAR(fit->law.coefficients[i], truth.coefficients[i], 2e-6 * truth.coefficients[i] + 1e-15);
  ASSERT_EQ(fit->law.knees.size(), truth.knees.size());
  for (std::size_t i = 0; i < truth.knees.size(); ++i)
    EXPECT_NEAR(fit->law.knees[i], truth.knees[i], 1e-5 * truth.knees[i]);
  EXPECT_NEAR(fit->law.exponent, truth.exponent, 1e-6);
}

INSTANTIATE_TEST_SUITE_P(
    Laws, KnownLaw,
    testing::Values(Law{LawKind::constant, 3.5, {}, 0, {}}, Law{LawKind::linear, 0.1, {1e-4}, 0, {}},
                    Law{LawKind::linear, 0, {1e-4}, 0, {}}, Law{LawKind::n_log_n, 0.1, {1e-5}, 0, {}},
                    Law{LawKind::quadratic, 0.1, {1e-7}, 0, {}},
                    Law{LawKind::linear_and_quadratic, 0.1, {1e-4, 3e-9}, 0, {}},
                    Law{LawKind::linear_and_quadratic, 0.1, {0, 3e-9}, 0, {}},
                    Law{LawKind::power, 0.05, {1e-5}, 1.3, {}}, Law{LawKind::power, 0, {1e-7}, 2, {}},
                    Law{LawKind::power, 1.0, {1e-6}, 1.5, {}}, Law{LawKind::one_knee, 0.1, {1e-4, 3e-4}, 0, {7000}},
                    Law{LawKind::one_knee, 0.1, {3e-4, 1e-4}, 0, {2500}},
                    Law{LawKind::two_knees, 0.1, {1e-4, 4e-4, 2e-4}, 0, {900, 20'000}}));

// The constant that is nearest on the log scale is the geometric mean; points wobble by a factor of 4 here.
TEST(Laws, ErrorsAreMultiplicative) {
  const auto fit = fit_law(LawKind::constant, points_of({LawKind::constant, 1, {}, 0, {}}, 4));
  EXPECT_NEAR(fit->law.fixed_ms, 2, 1e-9);
  EXPECT_NEAR(fit->squared_residuals, 10 * 5 * std::log(2) * std::log(2), 1e-9);
}

TEST(Laws, CoefficientsAreNeverNegative) {
  Points falling = points_of({LawKind::linear, 0, {1e-4}, 0, {}});
  falling.log_ms = falling.log_ms.reverse().eval();
  const auto fit = fit_law(LawKind::linear, falling);
  ASSERT_TRUE(fit);
  EXPECT_GE(fit->law.fixed_ms, 0);
  EXPECT_GE(fit->law.coefficients[0], 0);
  EXPECT_TRUE(std::isfinite(log_ms_at(fit->law, 100)));
}

TEST(Laws, HeavyPointsCountMore) {
  Points points = points_of({LawKind::constant, 1, {}, 0, {}}, 4);
  for (Eigen::Index i = 0; i < 10; i += 2) points.weight(i) = 15;
  EXPECT_NEAR(fit_law(LawKind::constant, points)->law.fixed_ms, std::pow(4, 0.25), 1e-9);
}

TEST(Laws, NeedMorePointsThanCoefficients) {
  Points points = points_of({LawKind::linear, 0.1, {1e-4}, 0, {}});
  points.x = points.x.head(3).eval();
  points.log_ms = points.log_ms.head(3).eval();
  points.weight = points.weight.head(3).eval();
  EXPECT_TRUE(fit_law(LawKind::linear, points));
  EXPECT_FALSE(fit_law(LawKind::power, points));
}

TEST(Laws, ALocalExponentIsTheSlopeInLogLog) {
  EXPECT_NEAR(exponent_at({LawKind::quadratic, 0, {1e-7}, 0, {}}, 500), 2, 1e-6);
  EXPECT_NEAR(exponent_at({LawKind::linear, 1, {1e-3}, 0, {}}, 1000), 0.5, 1e-6);
}

TEST(Laws, TheLeftOutErrorIsSmallForTheTruthAndLargeForAnother) {
  const Points points = points_of({LawKind::quadratic, 0.1, {1e-7}, 0, {}}, 1.01);
  EXPECT_LT(*left_out_error(LawKind::quadratic, points), 0.02);
  EXPECT_GT(*left_out_error(LawKind::linear, points), 0.3);
  EXPECT_FALSE(left_out_error(LawKind::power, {points.x.head(4), points.log_ms.head(4), points.weight.head(4)}));
}

TEST(Laws, TheUnitOfTheAxisDoesNotMatter) {
  const Law truth{LawKind::power, 0.05, {1e-5}, 1.3, {}};
  Points scaled = points_of(truth);
  scaled.x *= 1e6;
  const auto fit = fit_law(LawKind::power, scaled);
  EXPECT_NEAR(fit->law.exponent, 1.3, 1e-6);
  EXPECT_NEAR(fit->law.fixed_ms, 0.05, 1e-7);
}

}  // namespace
}  // namespace mileage
