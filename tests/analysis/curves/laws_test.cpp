#include "analysis/curves/laws.h"

#include <cmath>

#include <gtest/gtest.h>

#include "analysis/curves/made_curves.h"

namespace mileage {
namespace {

using made::curve_of;
using made::usual_places;

LawNames names_of(const std::function<double(double)>& ms, double own_sd = 0.005) {
  return name_laws(curve_of(ms, usual_places, 0.1, own_sd));
}

std::optional<Law> fitted(LawKind kind, const std::function<double(double)>& ms) {
  Eigen::ArrayXd log_ms(static_cast<Eigen::Index>(usual_places.size()));
  for (std::size_t i = 0; i < usual_places.size(); ++i)
    log_ms(static_cast<Eigen::Index>(i)) = std::log(ms(usual_places[i]));
  return fit_law(kind, usual_places, log_ms, Eigen::ArrayXd::Ones(log_ms.size()));
}

TEST(FitLaw, FindsTheCoefficientsOfEveryLaw) {
  EXPECT_NEAR(fitted(LawKind::constant, [](double) { return 2.0; })->fixed_ms, 2, 1e-9);
  const auto linear = fitted(LawKind::linear, [](double n) { return 0.5 + 1e-3 * n; });
  EXPECT_NEAR(linear->fixed_ms, 0.5, 1e-9);
  EXPECT_NEAR(linear->coefficients[0], 1e-3, 1e-12);
  EXPECT_NEAR(fitted(LawKind::n_log_n, [](double n) { return 1e-3 * n * std::log2(1 + n); })->coefficients[0], 1e-3,
              1e-9);
  EXPECT_NEAR(fitted(LawKind::quadratic, [](double n) { return 1 + 1e-6 * n * n; })->coefficients[0], 1e-6, 1e-12);
  EXPECT_NEAR(fitted(LawKind::power, [](double n) { return 0.1 + 1e-3 * std::pow(n, 1.3); })->exponent, 1.3, 1e-3);
  const auto knee = fitted(LawKind::one_knee, [](double n) { return 1e-3 * n + 2e-3 * std::max(0.0, n - 5000); });
  EXPECT_NEAR(knee->knees[0], 5000, 50);
  EXPECT_NEAR(knee->coefficients[1] / knee->coefficients[0], 3, 0.05);
}

TEST(FitLaw, HasNoCoefficientBelowZeroAndNeedsMorePlacesThanCoefficients) {
  EXPECT_EQ(fitted(LawKind::linear, [](double n) { return 3 - 1e-5 * n; })->coefficients[0], 0);
  EXPECT_FALSE(fit_law(LawKind::power, {1, 2, 3}, Eigen::Array3d(1, 2, 3), Eigen::Array3d::Ones()));
}

TEST(NameLaws, TheSimplestThatFits) {
  EXPECT_EQ(names_of([](double) { return 2; }).laws.front().kind, LawKind::constant);
  const LawNames linear = names_of([](double n) { return 0.05 + 1e-3 * n; });
  ASSERT_EQ(linear.laws.size(), 1U);
  EXPECT_EQ(linear.laws.front().kind, LawKind::linear);
  EXPECT_LT(linear.largest_deviation, 0.03);
  EXPECT_EQ(names_of([](double n) { return 0.2 + 1e-3 * n * std::log2(1 + n); }).laws.front().kind, LawKind::n_log_n);
  EXPECT_EQ(names_of([](double n) { return 0.1 + 1e-3 * std::pow(n, 1.3); }).laws.front().kind, LawKind::power);
}

TEST(NameLaws, ASimplerLawMayDeviateByAFewPercent) {
  const auto kind_of = [](double exponent) {
    return names_of([=](double n) { return 1e-3 * std::pow(n, exponent); }).laws.front().kind;
  };
  EXPECT_EQ(kind_of(1.006), LawKind::linear) << "within 2 %";
  EXPECT_NE(kind_of(1.011), LawKind::linear) << "off by 4 %";
}

TEST(NameLaws, AKneeHasPlacesThatFitAsWell) {
  const LawNames names = names_of([](double n) { return 1e-3 * n + 3e-3 * std::max(0.0, n - 5000); });
  ASSERT_FALSE(names.laws.empty());
  EXPECT_EQ(names.laws.front().kind, LawKind::one_knee);
  EXPECT_LT(*names.knee.low, 5100);
  EXPECT_GT(*names.knee.high, 4900);
  EXPECT_LT(*names.knee.low, *names.knee.high);
}

TEST(NameLaws, ThereIsNoneForAReason) {
  EXPECT_EQ(name_laws(curve_of([](double n) { return n; }, {100, 200})).why, NotNamed::too_few_places);
  EXPECT_EQ(names_of([](double n) { return n; }, 0.1).why, NotNamed::too_uncertain);
  EXPECT_EQ(names_of([](double n) { return n * (2 + std::sin(3 * std::log(n))); }).why, NotNamed::like_none);
}

TEST(NameLaws, StepsAreTakenOutFirst) {
  SeriesCurve curve =
      curve_of([](double n) { return 1e-3 * n * (n > 5000 ? 3 : 1); }, {100, 300, 1000, 3000, 10'000, 30'000, 90'000});
  EXPECT_EQ(name_laws(curve).why, NotNamed::like_none);
  curve.steps = {{3000, 10'000}};
  EXPECT_EQ(name_laws(curve).laws.front().kind, LawKind::linear);
  EXPECT_NEAR(name_laws(curve).laws.front().coefficients[0], 3e-3, 5e-5) << "at the height beyond it";
}

}  // namespace
}  // namespace mileage
