#include "analysis/curves/law_names.h"

#include <cmath>
#include <functional>

#include <gtest/gtest.h>

#include "analysis/curves/curve.h"
#include "support/made_studies.h"

namespace mileage {
namespace {

/// Of 20 blocks with little noise, so that no program follows a law exactly. `deviation from the law` is what each
/// count is off its law by, up and down in turn, in every block.
LawNames names_of(std::function<double(double)> ms, double law_deviation, std::vector<std::int64_t> counts) {
  made::Setting setting;
  setting.counts = std::move(counts);
  setting.truths = {{"objects", [&, ms](double n) {
                       const auto at = std::find(setting.counts.begin(), setting.counts.end(), std::llround(n));
                       return ms(n) * std::exp((at - setting.counts.begin()) % 2 == 0 ? law_deviation : -law_deviation);
                     }}};
  setting.blocks = 20;
  setting.run_noise = 0.005;
  const SeriesCurve curve = fit_series(gather_evidence(made::study_of(setting)).series.front());
  return name_laws(curve.all.points, curve.all.tested_against, curve.all.tests);
}

const std::vector<std::int64_t> eleven = made::counts_between(100, 100'000, 11);

double n_log_n(double n) { return 1e-5 * n * std::log2(1 + n); }

TEST(LawNames, WhatNoiseDoesNotRejectAgreesWithThePoints) {
  const LawNames names = names_of(n_log_n, 0, eleven);
  EXPECT_EQ(names.by, NamedBy::noise);
  EXPECT_EQ(names.nearest->kind, LawKind::n_log_n);
  EXPECT_LT(names.largest_deviation, 0.02);
}

TEST(LawNames, QuirksOfAFewPercentDoNotTakeTheNameAway) {
  const LawNames names = names_of(n_log_n, 0.03, eleven);
  EXPECT_EQ(names.by, NamedBy::law_deviations);
  EXPECT_EQ(names.nearest->kind, LawKind::n_log_n);
  EXPECT_GT(names.largest_deviation, 0.02);
  EXPECT_LT(names.largest_deviation, 0.06);
}

TEST(LawNames, TheSimplestWithinTenPercentComesNext) {
  const LawNames names = names_of([](double n) { return 0.1 + 1e-4 * n; }, 0.08, eleven);
  EXPECT_EQ(names.by, NamedBy::near);
  EXPECT_EQ(names.nearest->kind, LawKind::linear);
  EXPECT_EQ(names.laws.size(), 1U);
  EXPECT_NEAR(names.largest_deviation, 0.08, 0.02);
}

TEST(LawNames, ARicherLawMustCutTheDeviationToAThird) {
  // A line comes within ten percent of the sum of a line and a small square; the sum itself within one.
  const auto with_square = [](double n) { return 1e-4 * n + 5e-11 * n * n; };
  EXPECT_EQ(names_of(with_square, 0.06, eleven).nearest->kind, LawKind::linear);
  EXPECT_EQ(names_of(with_square, 0, eleven).nearest->kind, LawKind::linear_and_quadratic);
}

TEST(LawNames, ThenWithinTwentyPercentAndThenNothing) {
  const LawNames rough = names_of([](double n) { return 1e-4 * n; }, 0.13, eleven);
  EXPECT_EQ(rough.by, NamedBy::rough);
  EXPECT_EQ(rough.nearest->kind, LawKind::linear);
  const LawNames none = names_of([](double n) { return 1e-4 * n; }, 0.5, eleven);
  EXPECT_EQ(none.by, NamedBy::nothing);
  EXPECT_FALSE(none.nearest);
}

TEST(LawNames, WithoutTestsThereIsNoName) { EXPECT_EQ(name_laws({}, {}, {}).by, NamedBy::nothing); }

}  // namespace
}  // namespace mileage
