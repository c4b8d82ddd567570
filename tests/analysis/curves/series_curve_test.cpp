#include "analysis/curves/series_curve.h"

#include <algorithm>
#include <cmath>

#include <gtest/gtest.h>

#include "analysis/analysis.h"
#include "analysis/answers/capacity.h"
#include "analysis/curves/made_curves.h"
#include "support/foreign_studies.h"
#include "support/made_studies.h"

namespace mileage {
namespace {

using made::curve_of;
using made::usual_places;

double line(double n) { return 1e-3 * n; }

TEST(SeriesCurve, ReadsCostsInTheMeasuredRangeWithTheirIntervals) {
  const SeriesCurve curve = curve_of(line, usual_places);
  EXPECT_NEAR(curve.ms_at(5000), 5, 0.05);
  ASSERT_TRUE(curve.cost_at(5000));
  EXPECT_NEAR(std::log(*curve.cost_at(5000)->interval.high / curve.ms_at(5000)), 1.96 * 0.02, 0.004);
  EXPECT_FALSE(curve.cost_at(99));
  EXPECT_FALSE(curve.cost_at(100'001));
  EXPECT_TRUE(curve.is_measured_at(3000));
  EXPECT_FALSE(curve.is_measured_at(5000));
}

TEST(SeriesCurve, RisesThroughALevelWhereItsMiddleAndEachDrawDo) {
  const SeriesCurve curve = curve_of(line, usual_places);
  EXPECT_NEAR(*curve.rise(std::log(5)), 5000, 50);
  EXPECT_NEAR(middle_of(curve.drawn_rise(Drawn::Constant(curve.draws(), std::log(5)))), 5000, 50);
  EXPECT_FALSE(curve.rise(std::log(0.05))) << "above it at once";
  EXPECT_FALSE(curve.rise(std::log(300))) << "and never beyond twice the range";
  EXPECT_EQ(curve.source_at(*curve.rise(std::log(150))), Source::extrapolated);
}

TEST(SeriesCurve, GrowsByTheSlopeOfALineThroughPlaces) {
  const SeriesCurve curve = curve_of([](double n) { return std::pow(n, 1.3); }, usual_places, 0.1, 0.01);
  EXPECT_NEAR(middle_of(curve.drawn_exponent(10'000, 100'000)), 1.3, 0.005);
  const Interval interval = interval_of(curve.drawn_exponent(10'000, 100'000));
  EXPECT_LT(*interval.high - *interval.low, 0.04) << "a shift of the whole is no slope";
}

Study study_of(double (*ms)(double), std::vector<std::int64_t> counts) {
  made::Setting setting;
  setting.truths = {{"objects", ms}};
  setting.counts = std::move(counts);
  setting.blocks = 5;
  setting.run_noise = 0.01;
  return made::study_of(setting);
}

TEST(FitCurves, GoThroughTheRunsAndOnFromThreePlacesOn) {
  const Study study = study_of(line, {1000, 3000, 10'000});
  const SeriesCurve curve = fit_curves(gather_evidence(study)).front();
  EXPECT_NEAR(curve.ms_at(3000), 3, 0.05);
  EXPECT_NEAR(curve.farthest(), 20'000, 1);
  EXPECT_FALSE(curve.corrected_by()) << "no probes";
  const Study two = study_of(line, {1000, 3000});
  EXPECT_NEAR(fit_curves(gather_evidence(two)).front().farthest(), 3000, 1e-6);
}

TEST(FitCurves, HaveStepsBetweenMeasuredPlaces) {
  const auto stepped = [](double n) { return 1e-3 * n * (n > 5000 ? 1.5 : 1); };
  const Study study = study_of(stepped, {1000, 2000, 3000, 4000, 6000, 8000, 10'000, 14'000});
  const SeriesCurve curve = fit_curves(gather_evidence(study)).front();
  ASSERT_EQ(curve.steps.size(), 1U);
  EXPECT_EQ(curve.steps[0].before, 4000);
  EXPECT_EQ(curve.steps[0].after, 6000);
  EXPECT_EQ(curve.source_at(5000), Source::step);
  EXPECT_NEAR(std::exp(middle_of(curve.drawn_log_rise(curve.steps[0]))), 1.5, 0.08);
}

TEST(FitCurves, SayWhatWasSubtractedForASlowMachine) {
  Study study = study_of(line, {1000, 3000, 10'000});
  study.head.full_speed_ns = 100;
  for (mileage::Run& run : study.runs) {
    const bool is_slow = run.block % 2 == 1;
    run.yardstick = YardstickReading{3, 200, is_slow ? 140.0 : 100, is_slow ? 140.0 : 100, is_slow ? 140.0 : 100};
    if (is_slow)
      for (std::int64_t& sample : run.samples_ns) sample = sample * 13 / 10;
  }
  const SeriesCurve curve = fit_curves(gather_evidence(study)).front();
  EXPECT_NEAR(curve.ms_at(3000), 3, 0.12);
  EXPECT_NEAR(*curve.corrected_by(), 1 - std::pow(1.3, -0.4), 0.03) << "two of five blocks";
}

/// Machines unlike the model: with 93 % coverage fewer than 60 of 72 hold once in 700 times.
TEST(FitCurves, HoldTheCapacitiesOfForeignMachines) {
  int held = 0, asked = 0;
  for (const foreign::Family family : foreign::families)
    for (int seed = 1; seed <= 8; ++seed) {
      const foreign::Simulated simulated =
          foreign::simulate(family, foreign::Load::heavy, 5, static_cast<std::uint64_t>(seed));
      const EvidenceSet evidence = gather_evidence(simulated.study);
      const std::vector<SeriesCurve> curves = fit_curves(evidence);
      for (std::size_t series = 0; series < 3; ++series, ++asked) {
        const double truth = simulated.truth.capacity(evidence.series[series].series.variant, 1000.0 / 60);
        const Interval interval = capacity(curves[series], 1000.0 / 60).interval;
        held += truth >= interval.low.value_or(0) && truth <= interval.high.value_or(HUGE_VAL);
      }
    }
  EXPECT_EQ(asked, 72);
  EXPECT_GE(held, 60);
}

}  // namespace
}  // namespace mileage
