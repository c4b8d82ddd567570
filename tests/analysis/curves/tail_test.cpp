#include "analysis/curves/tail.h"

#include <algorithm>
#include <cmath>

#include <gtest/gtest.h>

#include "support/made_studies.h"
#include "support/reports.h"

namespace mileage {
namespace {

Study night(int samples, double frame_noise) {
  made::Setting setting;
  setting.truths = {{"objects", [](double n) { return 1e-3 * n; }}};
  setting.counts = made::counts_between(1000, 32'000, 8);
  setting.blocks = 6;
  setting.samples = samples;
  setting.run_noise = 0.02;
  setting.frame_noise = frame_noise;
  return made::study_of(setting);
}

TEST(Tail, NeedsAThousandFramesAtThePlaceOfTheCapacity) {
  const Report few = report_of(night(100, 0.1));
  EXPECT_FALSE(few.capacities.capacities.front().tail);
  EXPECT_EQ(few.capacities.capacities.front().tail_frames, 600U);
  EXPECT_TRUE(report_of(night(200, 0.1)).capacities.capacities.front().tail);
}

/// Typical capacity 16,667 from short runs; 400 frames at some smaller counts.
SeriesCapacity with_many_frames_at(const std::vector<int>& places, double frame_noise) {
  Study study = night(400, frame_noise);
  for (mileage::Run& run : study.runs)
    if (std::find(places.begin(), places.end(), run.count) == places.end()) run.samples_ns.resize(10);
  return report_of(study).capacities.capacities.front();
}

TEST(Tail, IsToldFromTheFramesAroundItselfToo) {
  const SeriesCapacity one = with_many_frames_at({7246, 11'888}, 0.15);  // 99th percentile: exp(0.15 * 2.326).
  ASSERT_TRUE(one.tail && one.tail->at);
  EXPECT_NEAR(*one.tail->at, 16'667 / std::exp(0.15 * 2.326), 500);
  EXPECT_EQ(one.tail_frames, 2400U);
}

TEST(Tail, LiesBelowAllPlacesWithEnoughFramesWhereTheseAreOverTheBudget) {
  const SeriesCapacity one = with_many_frames_at({11'888}, 0.2);
  ASSERT_TRUE(one.tail);
  EXPECT_EQ(one.tail->none, NoCapacity::over_at_once);
  EXPECT_EQ(one.tail_from, 11'888);
}

// Frames spread by exp(0.1 * normal): 99th percentile exp(0.1 * 2.326).
TEST(Tail, HoldsTheBudgetForNinetyNinePercentOfFrames) {
  const Report report = report_of(night(400, 0.1));
  const SeriesCapacity& one = report.capacities.capacities.front();
  const double expected = 1000.0 / 60 / std::exp(0.1 * 2.326) * 1e3;
  EXPECT_NEAR(*one.tail->at, expected, 0.04 * expected);
  EXPECT_LT(*one.tail->at, *one.capacity.at);
  EXPECT_TRUE(one.tail->interval.closed());
}

TEST(Tail, NeverLiesBehindAStepThatEndsTheCapacity) {
  made::Setting setting;
  setting.truths = {{"narrow", [](double n) { return n < 65'536 ? 0.8e-4 * n : 1.36e-4 * n; }}};
  setting.counts = {20'000, 30'000, 40'000, 50'000, 60'000, 70'000, 80'000, 100'000, 130'000};
  setting.blocks = 5;
  setting.samples = 60;
  setting.run_noise = 0.015;
  setting.frame_noise = 0.02;
  Questions questions;
  questions.budgets_ms = {8};
  const SeriesCapacity one = report_of(made::study_of(setting), questions).capacities.capacities.front();
  ASSERT_EQ(one.capacity.source, Source::step);
  EXPECT_TRUE(!one.tail || *one.tail->at <= *one.capacity.at);
}

TEST(Tail, SamplesOfSeveralFramesCarryNone) {
  Study study = night(400, 0.1);
  for (mileage::Run& run : study.runs) run.frames_per_sample = 4;
  EXPECT_EQ(report_of(study).capacities.capacities.front().tail_frames, 0U);
}

/// Slowdown relative to a remembered full speed.
Study slow_throughout(double times) {
  Study study = night(400, 0.1);
  study.head.full_speed_ns = 100;
  for (mileage::Run& run : study.runs) {
    for (std::int64_t& sample : run.samples_ns)
      sample = std::llround(static_cast<double>(sample) * std::pow(times, 0.9));
    run.yardstick = YardstickReading{3, 200, 100 * times, 100 * times, 100 * times};
  }
  return study;
}

double log_width(const Interval& interval) { return std::log(*interval.high / *interval.low); }

TEST(Tail, IsOfTheMachineAsItWasWhateverItsFullSpeed) {
  const SeriesCapacity slow = report_of(slow_throughout(1.5)).capacities.capacities.front();
  const SeriesCapacity usual = report_of(slow_throughout(1)).capacities.capacities.front();
  EXPECT_NEAR(std::log(*slow.tail->at / *usual.tail->at), -0.9 * std::log(1.5), 0.01);
  EXPECT_LT(log_width(slow.tail->interval), 3 * log_width(usual.tail->interval))
      << "full speed is no uncertainty of it";
  EXPECT_GT(log_width(slow.capacity.interval), 4 * log_width(slow.tail->interval));
}

/// First block at 1.6x slowdown, frames slower by `times`.
Study slow_block(double times) {
  Study study = night(400, 0.1);
  study.head.full_speed_ns = 100;
  for (mileage::Run& run : study.runs) {
    const bool is_slow = run.block == 0;
    if (is_slow)
      for (std::int64_t& sample : run.samples_ns) sample = std::llround(static_cast<double>(sample) * times);
    const double mean_ns = is_slow ? 160 : 100;
    run.yardstick = YardstickReading{3, 200, mean_ns, mean_ns, mean_ns};
  }
  return study;
}

SeriesCurve tail_of(const Study& study) {
  const EvidenceSet evidence = gather_evidence(study);
  const SeriesCurve curve = fit_curves(evidence).front();
  return *tail_curve(curve, gather_tail(evidence.series.at(0), curve));
}

/// At one place, each tenth frame is slow.
TEST(Tail, IsWideWhereEndsJumpFromPlaceToPlace) {
  Study study = night(400, 0.02);
  const std::int64_t slow_at = made::counts_between(1000, 32'000, 8).at(4);
  for (mileage::Run& run : study.runs)
    if (run.count == slow_at)
      for (std::size_t i = 0; i < run.samples_ns.size(); i += 10)
        run.samples_ns[i] = std::llround(1.5 * static_cast<double>(run.samples_ns[i]));
  const auto x = static_cast<double>(slow_at);
  EXPECT_GT(log_width(tail_of(study).ms_interval_at(x)), 3 * log_width(tail_of(night(400, 0.02)).ms_interval_at(x)));
}

TEST(Tail, HoldsTheFramesOfSlowBlocks) {
  const SeriesCurve curve = tail_of(slow_block(1.6));
  EXPECT_GT(curve.log_ms_at(8000), std::log(8) + std::log(1.6) + 0.05) << "a sixth of the frames were slow";
}

/// Frames below 4,000 spread by 1.5x, like light frames that see single machine states.
TEST(Tail, FollowsEndsThatBendOverPlaces) {
  Study study = night(400, 0.1);
  for (mileage::Run& run : study.runs)
    if (run.count <= 4000)
      for (std::int64_t& sample : run.samples_ns) {
        const double typical_ns = 1e3 * static_cast<double>(run.count);
        sample = std::llround(typical_ns * std::pow(static_cast<double>(sample) / typical_ns, 3));
      }
  Questions questions;
  questions.budgets_ms = {25};
  const double expected = 25 / std::exp(0.1 * 2.326) * 1e3;
  EXPECT_NEAR(*report_of(study, questions).capacities.capacities.front().tail->at, expected, 0.03 * expected);
}

TEST(Tail, QuietFramesHaveATailNextToTheirMedian) {
  const Report report = report_of(night(400, 0.001));
  EXPECT_NEAR(*report.capacities.capacities.front().tail->at / *report.capacities.capacities.front().capacity.at, 1,
              0.01);
}

}  // namespace
}  // namespace mileage
