#include "analysis/disturbance.h"

#include <cmath>
#include <random>

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "analysis/findings.h"
#include "support/made_studies.h"

namespace mileage {
namespace {

using testing::HasSubstr;

Visit visit_with(double before_ns, double after_ns) {
  Visit visit;
  visit.yardstick = {1, {before_ns, 1}, {after_ns, 1}};
  return visit;
}

YardstickJudge judge_after(const std::vector<double>& levels, std::optional<double> remembered = {}) {
  YardstickJudge judge(remembered);
  for (const double level : levels) judge.add(visit_with(level, level));
  return judge;
}

TEST(YardstickJudge, CondemnsTheSlowerOfBothReadings) {
  const YardstickJudge judge = judge_after({100, 101, 102, 99, 100});
  EXPECT_FALSE(judge.condemns(visit_with(110, 112)));
  EXPECT_TRUE(judge.condemns(visit_with(100, 140)));
  EXPECT_TRUE(judge.condemns(visit_with(140, 100)));
}

TEST(YardstickJudge, WithoutReadingsCondemnsNothing) {
  EXPECT_FALSE(YardstickJudge({}).condemns(visit_with(1, 1)));
  EXPECT_FALSE(judge_after({100}).condemns(Visit{}));
}

TEST(YardstickJudge, HoldsVisitsAgainstTheLevelOfHalfOfTheReadings) {
  std::vector<double> levels(20, 170);
  levels.insert(levels.end(), 21, 100);
  const YardstickJudge judge = judge_after(levels, 98);
  EXPECT_FALSE(judge.is_slow_throughout());
  EXPECT_TRUE(judge.condemns(visit_with(170, 170)));
}

TEST(YardstickJudge, AMachineThatNeverReachesItsRememberedLevelIsSlowThroughout) {
  const YardstickJudge judge = judge_after(std::vector<double>(30, 170), 100);
  EXPECT_TRUE(judge.is_slow_throughout());
  EXPECT_FALSE(judge.condemns(visit_with(172, 171)));
}

TEST(YardstickJudge, AFewLuckyReadingsAreNotTheLevelOfTheMachine) {
  std::vector<double> levels(30, 170);
  levels.insert(levels.end(), 3, 100);
  EXPECT_EQ(judge_after(levels).level_ns(), 170);
}

TEST(YardstickJudge, TellsTwoSpeedsApartAndSparesAStepOfFrequency) {
  std::vector<double> levels(30, 77.5);
  levels.insert(levels.end(), 10, 95);
  EXPECT_FALSE(judge_after(levels).condemns(visit_with(77.5, 95)));
  EXPECT_TRUE(judge_after(levels).condemns(visit_with(77.5, 130)));
}

/// A study whose visits took `share` of what the yardstick varied by.
Study following_study(double share) {
  made::Setting setting;
  setting.truths = {{"objects", [](double n) { return 1e-3 * n; }}};
  setting.counts = made::counts_between(100, 10'000, 8);
  setting.visit_noise = 0.01;
  Study study = made::study_of(setting);
  std::mt19937_64 random(4);
  std::normal_distribution<double> normal(0, 0.05);
  for (Visit& visit : study.visits) {
    const double slower = normal(random);
    visit.yardstick = {1, {100 * std::exp(slower), 1}, {100 * std::exp(slower), 1}};
    for (std::int64_t& sample : visit.samples_ns) sample = std::llround(static_cast<double>(sample) * std::exp(share * slower));
  }
  return study;
}

TEST(Quietness, TellsWhenKeptFramesStillFollowTheYardstick) {
  EXPECT_GT(*quietness_of(following_study(1)).follows_yardstick, 0.9);
  EXPECT_LT(std::fabs(*quietness_of(following_study(0)).follows_yardstick), 0.3);
  EXPECT_THAT(analyse(following_study(1), {}).warnings.at(0), HasSubstr("frame times still follow the yardstick"));
}

TEST(Quietness, AStudySlowThroughoutSaysSo) {
  Study study = following_study(0);
  study.head.remembered_yardstick_ns = 50;
  EXPECT_THAT(analyse(study, {}).warnings.at(0), HasSubstr("this machine as it was"));
}

TEST(Quietness, CountsWhatWasRepeated) {
  Study study = following_study(0);
  study.visits[3].status = VisitStatus::repeated;
  const Quietness quiet = quietness_of(study);
  EXPECT_EQ(quiet.repeated, 1U);
  EXPECT_EQ(quiet.kept, study.visits.size() - 1);
}

}  // namespace
}  // namespace mileage
