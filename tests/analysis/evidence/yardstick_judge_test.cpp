#include "analysis/evidence/yardstick_judge.h"

#include <gtest/gtest.h>

namespace mileage {
namespace {

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

TEST(YardstickJudge, HoldsVisitsAgainstTheFastestLevelOfAThirdOfTheReadings) {
  std::vector<double> levels(20, 170);
  levels.insert(levels.end(), 11, 100);
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

TEST(YardstickJudge, CondemnsAVisitAtASpeedThatTheStudyDoesNotHave) {
  const YardstickJudge judge = judge_after(std::vector<double>(30, 170));
  EXPECT_TRUE(judge.condemns(visit_with(100, 100)));
  EXPECT_FALSE(judge.condemns(visit_with(100, 170)));  // half of it at the study's speed, and the slower half counts
}

/// Ten visits that were kept, at these levels.
Study study_at(const std::vector<double>& levels) {
  Study study;
  for (const double level : levels) {
    study.visits.push_back(visit_with(level, level));
    study.visits.back().samples_ns = {1};
  }
  return study;
}

TEST(YardstickJudge, CondemnsALongVisitThatTheHostTookTimeFrom) {
  const YardstickJudge judge = judge_after(std::vector<double>(30, 100));
  Visit visit = visit_with(100, 100);
  visit.load = MachineLoad{1, 0.6};
  visit.took_s = 0.05;
  EXPECT_FALSE(judge.condemns(visit));  // too short to tell
  visit.took_s = 2;
  EXPECT_TRUE(judge.condemns(visit));
}

TEST(YardstickJudge, ReadingsOfBlocksReplaceThoseBefore) {
  YardstickJudge judge({});
  Visit placing = visit_with(60, 60);
  placing.status = VisitStatus::placing;
  for (int i = 0; i < 50; ++i) judge.add(placing);
  EXPECT_EQ(judge.level_ns(), 60);
  for (int i = 0; i < 12; ++i) judge.add(visit_with(100, 100));
  EXPECT_EQ(judge.level_ns(), 100);
}

TEST(EvidenceVisits, TakeInWhatWasCondemnedByAnEarlierLevel) {
  Study study = study_at(std::vector<double>(20, 100));
  study.visits.front().status = VisitStatus::disturbed;
  study.visits.back().status = VisitStatus::failed;
  EXPECT_EQ(evidence_visits(study).size(), 19U);
}

TEST(EvidenceVisits, LeaveOutWhatWasKeptBeforeTheMachineShowedItsSpeed) {
  const Study study = study_at({170, 171, 169, 100, 101, 99, 100, 102, 170, 100});
  const auto visits = evidence_visits(study);
  ASSERT_EQ(visits.size(), 6U);
  for (const Visit* visit : visits) EXPECT_LT(visit->yardstick->level_ns(), 134);
}

TEST(EvidenceVisits, AreAllOfThemWhereNoYardstickWasTaken) {
  Study study = study_at({100, 500});
  for (Visit& visit : study.visits) visit.yardstick.reset();
  EXPECT_EQ(evidence_visits(study).size(), 2U);
}

}  // namespace
}  // namespace mileage
