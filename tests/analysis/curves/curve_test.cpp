#include "analysis/curves/curve.h"
#include "analysis/curves/law_names.h"

#include <cmath>
#include <random>

#include <gtest/gtest.h>

#include "support/made_studies.h"

namespace mileage {
namespace {

SeriesCurve curve_of(std::function<double(double)> ms, double run_noise, int blocks = 6, std::uint64_t seed = 1) {
  made::Setting setting;
  setting.truths = {{"objects", std::move(ms)}};
  setting.counts = made::counts_between(100, 100'000, 10);
  setting.blocks = blocks;
  setting.run_noise = run_noise;
  setting.block_noise = run_noise;
  setting.seed = seed;
  return fit_series(gather_evidence(made::study_of(setting)).series.front());
}

double linear(double n) { return 0.1 + 1e-4 * n; }
double bent(double n) { return 1e-4 * n * (1 + 0.5 * std::sin(3 * std::log(n))); }

TEST(Curve, NamesTheSimplestLawThatNoiseDoesNotReject) {
  EXPECT_EQ(curve_of([](double) { return 2.0; }, 0.02).all.law->kind, LawKind::constant);
  EXPECT_EQ(curve_of(linear, 0.02).all.law->kind, LawKind::linear);
  EXPECT_EQ(curve_of([](double n) { return 0.1 + 1e-6 * n * n; }, 0.02).all.law->kind, LawKind::quadratic);
  EXPECT_EQ(curve_of([](double n) { return 0.01 + 1e-5 * std::pow(n, 1.5); }, 0.02).all.law->kind, LawKind::power);
  EXPECT_EQ(curve_of([](double n) { return n < 10'000 ? 1e-4 * n : 1 + 4e-4 * (n - 10'000); }, 0.02).all.law->kind,
            LawKind::one_knee);
}

TEST(Curve, NamesNoLawWhereNoneHoldsAndReadsBetweenThePoints) {
  const SeriesCurve curve = curve_of(bent, 0.01);
  EXPECT_FALSE(curve.all.law);
  EXPECT_EQ(curve.all.source_at(5000), Source::interpolated);
  EXPECT_GT(curve.all.interpolation_error(4000), 0.01);
  const Eigen::Index i = 3;
  EXPECT_NEAR(curve.all.log_ms_at(curve.all.points.x(i)), curve.all.points.log_ms(i), 1e-12);
}

// Counts at 464 and 4642 say nothing of what lies between them; a knee there is as good an account of them as a power.
TEST(Curve, HoldsAKneeThatMayBeHiddenBetweenItsCounts) {
  const auto hidden = [](double n) { return n < 2000 ? 0.1 + 1e-4 * n : 0.3 + 1.3e-4 * (n - 2000); };
  made::Setting setting;
  setting.truths = {{"objects", hidden}};
  setting.counts = {50, 100, 215, 464, 10'000, 21'544, 46'416};
  setting.blocks = 6;
  setting.run_noise = 0.02;
  const SeriesCurve curve = fit_series(gather_evidence(made::study_of(setting)).series.front());
  ASSERT_TRUE(curve.all.law && curve.all.law->knees.empty());
  ASSERT_TRUE(curve.all.other_interpolant);
  const double apart = std::fabs(curve.all.other_interpolant->log_ms_at(2000) - curve.all.log_ms_at(2000));
  EXPECT_GT(apart, 0.01);
  EXPECT_GT(curve.all.interpolation_error(2000), 0.95 * apart) << "all but what noise explains";
  const Interval interval = curve.ms_interval_at(2000);
  EXPECT_LT(*interval.low, hidden(2000));
  EXPECT_GT(*interval.high, hidden(2000));
}

// Where the fixed cost is never overtaken, N log N and N look alike.
TEST(Curve, NamesBothLawsThatTheDataCannotTellApart) {
  const Curve curve = curve_of([](double n) { return 10 + 1e-4 * n; }, 0.04).all;
  const LawNames names = name_laws(curve.points, curve.tested_against, curve.tests);
  ASSERT_GE(names.laws.size(), 2U);
  for (const Law& law : names.laws) EXPECT_EQ(tier_of(law.kind), 1);
}

TEST(Curve, WithoutRepetitionNoLawIsTested) {
  const SeriesCurve curve = curve_of(linear, 0.02, 1);
  EXPECT_TRUE(curve.all.tests.empty());
  EXPECT_FALSE(curve.all.law);
}

TEST(Curve, IsTrustedToTwiceItsEndByALawAndNoFartherThanItsPointsWithoutOne) {
  const SeriesCurve known = curve_of(linear, 0.02);
  EXPECT_DOUBLE_EQ(known.all.farthest(), 200'000);
  EXPECT_EQ(known.all.source_at(200'000), Source::extrapolated);
  const SeriesCurve unknown = curve_of(bent, 0.01);
  EXPECT_DOUBLE_EQ(unknown.all.farthest(), 100'000);
}

TEST(SeriesCurve, LeavesOutEachBlockOnce) {
  const SeriesCurve curve = curve_of(linear, 0.03);
  ASSERT_EQ(curve.leave_one_out.size(), 6U);
  EXPECT_EQ(curve.blocks(), 6);
  for (const Curve& one : curve.leave_one_out) EXPECT_NE(one.points.log_ms(0), curve.all.points.log_ms(0));
}

TEST(SeriesCurve, ABlockWithoutARunOfItDoesNotCount) {
  made::Setting setting;
  setting.truths = {{"objects", linear}, {"columns", linear}};
  setting.counts = made::counts_between(100, 10'000, 8);
  setting.run_noise = 0.02;
  Study study = made::study_of(setting);
  std::erase_if(study.runs, [](const mileage::Run& run) { return run.block == 2 && run.series.variant == "objects"; });
  const SeriesCurve curve = fit_series(gather_evidence(study).series.front());
  EXPECT_EQ(curve.blocks(), 4);
  EXPECT_FALSE(curve.block_counts[2]);
}

TEST(SeriesCurve, ABlockThatCountsLittleTellsLittleOfItsError) {
  const std::vector<double> x{100, 200, 400};
  Eigen::ArrayXXd log_ms(3, 6);
  for (Eigen::Index row = 0; row < 3; ++row)
    for (Eigen::Index block = 0; block < 6; ++block)
      log_ms(row, block) = static_cast<double>(row) + 0.01 * std::sin(row + 2.0 * static_cast<double>(block));
  const auto degrees = [&](double weight_of_last_blocks, Eigen::Index last = 2) {
    Eigen::ArrayXXd weight = Eigen::ArrayXXd::Ones(3, 6);
    weight.rightCols(last) = weight_of_last_blocks;
    return fit_series(x, 6,
                      [&](std::optional<Eigen::Index> block) {
                        return block ? CostTable{without_column(log_ms, *block), without_column(weight, *block)}
                                     : CostTable{log_ms, weight};
                      })
        .degrees_of_freedom;
  };
  EXPECT_NEAR(degrees(1), 5, 1e-9);
  EXPECT_NEAR(degrees(1e-6), 3, 1e-4) << "four blocks";
  EXPECT_NEAR(degrees(0.5), 25 / 4.5 - 1, 1e-9);
  EXPECT_EQ(degrees(1e-6, 5), 1) << "one block outweighs all others";
}

TEST(HalfWidth, NeedsThreeBlocksAndAReadingInEach) {
  EXPECT_FALSE(half_width({1.0, 2.0}));
  EXPECT_FALSE(half_width({1.0, std::nullopt, 2.0, 3.0}));
  EXPECT_TRUE(half_width({1.0, 1.1, 1.2}));
}

TEST(HalfWidth, OfACurveHoldsDriftRunsAndBends) {
  const Readings readings{1.0, 1.1, 1.2};
  SeriesCurve curve;
  curve.degrees_of_freedom = 2;
  EXPECT_NEAR(*error_of(readings), 0.1155, 1e-4);
  EXPECT_NEAR(*half_width(curve, 1000, readings, 0, 1), 4.303 * 0.1155, 1e-3);  // Student's t of two degrees
  EXPECT_NEAR(*half_width(curve, 1000, readings, 0.5, 1), 1.995 * std::hypot(0.1155, 0.5 / 1.96), 1e-3);  // of 69
  curve.drift_error = 0.1;
  EXPECT_NEAR(*half_width(curve, 1000, readings, 0, 1), 2.80 * std::hypot(0.1155, 0.1), 2e-3);  // of 3.9
  curve.between_processes_sd = 0.2;
  EXPECT_NEAR(*half_width(curve, 1000, readings, 0, 1), 2.338 * std::hypot(0.1155, 0.1, 0.2), 2e-3);  // of 7.4
  curve.assumed_error = 0.03;
  EXPECT_NEAR(*half_width(curve, 1000, {}, 0, 2), 2.776 * 0.03 / 2, 1e-3);
  EXPECT_NEAR(*half_width(curve, 1000, {}, 0, 1), 2.776 * 0.03, 1e-3) << "nothing was repeated";
}

TEST(SeriesCurve, TheDoubtOfSlopesIsThatOfThePlacesAround) {
  SeriesCurve curve;
  EXPECT_EQ(curve.slope_error_at(100), 0) << "no levels are known";
  curve.places = {100, 1000};
  curve.adjustment.cost_covariance = Eigen::Vector2d(0.01 * 0.01, 0.03 * 0.03).asDiagonal();
  EXPECT_NEAR(curve.slope_error_at(50), 0.01, 1e-12);
  EXPECT_NEAR(curve.slope_error_at(100), 0.01, 1e-12);
  EXPECT_NEAR(curve.slope_error_at(550), 0.02, 1e-12);
  EXPECT_NEAR(curve.slope_error_at(1000), 0.03, 1e-12);
  EXPECT_NEAR(curve.slope_error_at(5000), 0.03, 1e-12);
  curve.adjustment.slope = 0.6;
  curve.full_speed_sd = 0.01;
  EXPECT_NEAR(curve.adjusted_error_at(550), std::hypot(0.02, 0.006), 1e-12);
}

TEST(SeriesCurve, WhatNoSlowdownTellsIsInTheCostsOfAllPlaces) {
  SeriesCurve curve;
  curve.places = {100, 1000};
  curve.adjustment.cost_covariance = Eigen::Vector2d(0.01 * 0.01, 0.03 * 0.03).asDiagonal();
  curve.adjustment.unexplained_variance = 0.02 * 0.02;
  EXPECT_NEAR(curve.slope_error_at(100), std::hypot(0.01, 0.02), 1e-12);
  EXPECT_NEAR(curve.slope_error_at(5000), std::hypot(0.03, 0.02), 1e-12);
  EXPECT_NEAR(*half_width(curve, 100, {1.0, 1.0, 1.0}, 0, 1), 1.96 * std::hypot(0.01, 0.02), 1e-4)
      << "blocks that agree do not take it away";
}

/// Runs of a machine whose slowdown differs from run to run, and frames that follow it by the slope.
Study on_restless_machine(double slope, const std::vector<std::int64_t>& counts = {1000, 2000, 4000, 8000, 16'000}) {
  made::Setting setting;
  setting.truths = {{"objects", [](double n) { return 1e-3 * n; }}};
  setting.counts = counts;
  setting.blocks = 8;
  setting.run_noise = 0.01;
  Study study = made::study_of(setting);
  std::mt19937 random(3);
  std::uniform_real_distribution<double> slowdown(0, 0.5);
  for (mileage::Run& run : study.runs) {
    const double slow = slowdown(random);
    const double probe_ns = 15'000 * std::exp(slow);
    run.yardstick = YardstickReading{3, 100, probe_ns, probe_ns, 15'000};
    for (std::int64_t& sample : run.samples_ns)
      sample = std::llround(static_cast<double>(sample) * std::exp(slope * slow));
  }
  return study;
}

/// The same, slow at the lower counts; the upper ones were measured in quiet moments.
Study upper_counts_in_quiet_moments() {
  Study study = on_restless_machine(0, {1000, 2000, 4000, 4600, 9200});
  for (mileage::Run& run : study.runs) {
    const bool is_quiet = run.count > 4000;
    const double slow = is_quiet ? 0.01 : 0.6 + 0.01 * (run.block % 3);
    const double probe_ns = 15'000 * std::exp(slow);
    run.yardstick = YardstickReading{3, 100, probe_ns, probe_ns, is_quiet ? 15'000.0 : probe_ns};
    for (std::int64_t& sample : run.samples_ns)
      sample = std::llround(static_cast<double>(sample) * std::exp(0.25 * slow));
  }
  return study;
}

// Frames followed the slowdown less than usual, which nothing told: the lower counts come out too cheap.
TEST(SeriesCurve, CountsOfUnlikeSlowdownsAreNoStep) {
  const SeriesCurve curve = fit_series(gather_evidence(upper_counts_in_quiet_moments()).series.front());
  ASSERT_EQ(curve.all.points.x.size(), 5);
  EXPECT_LT(curve.all.points.log_ms(2), std::log(4.0) - 0.2);
  EXPECT_NEAR(curve.all.points.log_ms(3), std::log(4.6), 0.05);
  EXPECT_TRUE(curve.all.steps.empty());
}

TEST(SeriesCurve, IsThatOfTheMachineAtItsFullSpeed) {
  for (const double slope : {0.4, 0.8}) {
    const SeriesCurve curve = fit_series(gather_evidence(on_restless_machine(slope)).series.front());
    EXPECT_NEAR(curve.adjustment.slope, slope, 0.05);
    EXPECT_NEAR(std::exp(curve.all.log_ms_at(8000)), 8, 0.1) << "unadjusted it would be 9 and more";
    const Interval interval = curve.ms_interval_at(8000);
    EXPECT_LT(*interval.low, 8);
    EXPECT_GT(*interval.high, 8);
  }
}

}  // namespace
}  // namespace mileage
