#include <cmath>

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "analysis/analysis.h"
#include "analysis/answers/known_truths.h"
#include "types/error.h"

namespace mileage {
namespace {

using made::answers_to;
using made::flat;
using made::setting_of;
using made::steep;
using testing::HasSubstr;

TEST(Report, ConditionsAreNeverComparedWithEachOther) {
  Knobs calm, stormy;
  calm.set("wind", 0.0);
  stormy.set("wind", 9.0);
  const Report report =
      answers_to(setting_of({{"objects", steep, calm}, {"objects", flat, stormy}, {"columns", flat, calm}}));
  EXPECT_EQ(report.about.label(0), "objects wind=0");
  EXPECT_EQ(report.about.label(2), "columns");
  ASSERT_EQ(report.break_evens.pairs.size(), 1U);
  EXPECT_EQ(report.break_evens.pairs[0].one, 0U);
  EXPECT_EQ(report.break_evens.pairs[0].other, 2U);
  ASSERT_EQ(report.choices.groups.size(), 2U);
  EXPECT_EQ(report.choices.groups[0].conditions, "wind 0");
  EXPECT_EQ(report.choices.groups[1].members, (std::vector<std::size_t>{1}));
}

TEST(Report, StateCostsAtTheCountsAskedFor) {
  Questions questions;
  questions.at = {10'000};
  const Report report = answers_to(setting_of({{"objects", steep}, {"columns", flat}}), questions);
  const PlaceCosts& costs = report.costs.groups.at(0).places.at(0);
  EXPECT_NEAR(costs.costs[0].cost->ms, 1.0, 0.05);
  EXPECT_NEAR(costs.costs[1].share, 0.7, 0.03);
  EXPECT_NEAR(costs.costs[1].saves_ms, 0.3, 0.05);
  EXPECT_TRUE(costs.costs[1].share_interval.closed());
}

TEST(Report, FailedAndPlacingRunsAnswerNothing) {
  Study study = made::study_of(setting_of({{"objects", steep}}, 0));
  for (mileage::Run& run : study.runs)
    if (run.count == 400'000) {
      run.status = RunStatus::failed;
      run.failure = "ended by SIGSEGV";
    }
  study.runs[0].status = RunStatus::range_finding;
  const Report report = report_of(study);
  EXPECT_EQ(report.about.failures.size(), 6U);
  EXPECT_LT(report.growth.series[0].points.back().x, 400'000);
  EXPECT_EQ(report.growth.series[0].points.front().runs, 5);
}

TEST(Report, RefuseAStudyWithoutRunsAndUnknownVariants) {
  Study study = made::study_of(setting_of({{"objects", steep}}));
  Questions questions;
  questions.between = {"objects", "colums"};
  EXPECT_THROW(report_of(study, questions), Error);
  study.runs.clear();
  EXPECT_THROW(analyse(study), Error);
}

TEST(Report, SayWhenTheBuildWasNotOptimised) {
  Study study = made::study_of(setting_of({{"objects", steep}}));
  study.head.scenario.build.optimized = false;
  EXPECT_THAT(report_of(study).about.warnings.at(0), HasSubstr("without optimization"));
}

// 300 studies give the coverage to within 1.3 points.
TEST(Report, IntervalsHoldTheTruthAsOftenAsTheyClaim) {
  int held = 0;
  constexpr int studies = 100;
  for (std::uint64_t seed = 1; seed <= studies; ++seed) {
    made::Setting setting = setting_of({{"objects", [](double n) { return 0.1 + 1e-4 * n; }}}, 0.04);
    setting.seed = seed;
    setting.samples = 1;
    const Interval interval = made::capacities_of(setting).capacities.at(0).capacity.interval;
    held += interval.closed() && *interval.low <= 165'667 && 165'667 <= *interval.high;
  }
  EXPECT_GE(held, 0.92 * studies);
}

}  // namespace
}  // namespace mileage
