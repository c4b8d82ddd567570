#include "analysis/evidence/yardstick_judge.h"

#include <cmath>

#include <gtest/gtest.h>

namespace mileage {
namespace {

/// A visit whose probes took so long: on average in both halves, and in its fastest tenth.
Visit visit_at(double level_ns, double fast_ns) {
  Visit visit;
  visit.yardstick = YardstickReading{3, 20, level_ns, level_ns, fast_ns};
  return visit;
}

YardstickJudge judge_after(const std::vector<double>& fast, std::optional<double> remembered = {}) {
  YardstickJudge judge(remembered);
  for (const double ns : fast) judge.add(visit_at(ns, ns));
  return judge;
}

TEST(YardstickJudge, CondemnsAVisitAtTwiceTheFastLevel) {
  const YardstickJudge judge = judge_after({100, 101, 102, 100, 100});
  EXPECT_FALSE(judge.condemns(visit_at(180, 100)));
  EXPECT_TRUE(judge.condemns(visit_at(210, 100)));
  EXPECT_NEAR(*judge.slowness(visit_at(180, 100)), 1.8, 1e-9);
}

TEST(YardstickJudge, WithoutReadingsCondemnsNothing) {
  EXPECT_FALSE(YardstickJudge(std::nullopt).condemns(visit_at(1, 1)));
  EXPECT_FALSE(judge_after({100}).condemns(Visit{}));
  EXPECT_FALSE(judge_after({100}).slowness(Visit{}));
}

TEST(YardstickJudge, CountsArePlacedByWhatFramesWouldTakeAtTheFastLevel) {
  const YardstickJudge judge = judge_after({100, 100, 100});
  Visit visit = visit_at(150, 100);
  visit.samples_ns = {2'000'000};
  EXPECT_NEAR(judge.rough_fast_ms(visit), 2 * std::exp(-0.8 * 0.4 - 0.45 * (std::log(1.5) - 0.4)), 1e-9);
  const double beyond = std::log(1.5) - 0.4;
  EXPECT_NEAR(judge.rough_fast_deviation(visit), std::hypot(0.22 * 0.4, 0.44 * beyond, 0.2 * (0.4 + beyond)), 1e-9);
  visit.yardstick.reset();
  EXPECT_NEAR(judge.rough_fast_ms(visit), 2, 1e-9);
  EXPECT_EQ(judge.rough_fast_deviation(visit), 0);
}

TEST(YardstickJudge, HoldsProbesOfAKindAgainstTheirOwnLevel) {
  Head head;
  head.remembered_yardstick_ns = 100;
  head.remembered_on_cores_ns["2"] = 150;
  YardstickJudge judge(head);
  Visit alone = visit_at(110, 101);
  Visit on_two = visit_at(180, 155);
  on_two.yardstick->cores = 2;
  Visit of_a_program = visit_at(40, 40);
  of_a_program.yardstick->program = "lanterns";
  for (const Visit& visit : {alone, on_two, of_a_program}) judge.add(visit);
  EXPECT_NEAR(*judge.slowness(alone), 1.1, 1e-9);
  EXPECT_NEAR(*judge.slowness(on_two), 1.2, 1e-9);
  EXPECT_NEAR(*judge.slowness(of_a_program), 1, 1e-9) << "nothing is remembered of it";
  EXPECT_EQ(judge.own_fast_by_cores_ns(), (std::map<int, double>{{1, 101}, {2, 155}}));
  EXPECT_EQ(judge.fast_ns(), 100) << "a study is told by Mileage's own probes on one core";
}

TEST(YardstickJudge, ATwentiethOfTheVisitsShowsTheFastLevel) {
  std::vector<double> fast(60, 170);
  fast.insert(fast.end(), 3, 100);
  EXPECT_EQ(judge_after(fast).fast_ns(), 170) << "a few lucky visits do not";
  fast.insert(fast.end(), 1, 100);
  EXPECT_EQ(judge_after(fast).fast_ns(), 100);
}

TEST(YardstickJudge, AQuarterOfTheVisitsMakesAStudyFast) {
  std::vector<double> fast(30, 170);
  fast.insert(fast.end(), 4, 100);
  EXPECT_TRUE(judge_after(fast, 100).is_slow_throughout());
  EXPECT_FALSE(judge_after(fast).condemns(visit_at(300, 170))) << "it is measured as it is";
  fast.insert(fast.end(), 10, 100);
  EXPECT_FALSE(judge_after(fast, 100).is_slow_throughout());
  EXPECT_TRUE(judge_after(fast).condemns(visit_at(300, 170)));
}

TEST(YardstickJudge, ARestlessStudyIsNotSureOfItsOwnLevel) {
  const std::vector<double> steady(40, 100);
  std::vector<double> restless(38, 102);
  restless.insert(restless.end(), 2, 100);
  const double of_steady = judge_after(steady).fast_deviation({});
  EXPECT_EQ(of_steady, judge_after(steady, 100).fast_deviation({}));
  EXPECT_NEAR(judge_after(restless).fast_deviation({}), std::log(1.02), 1e-9);
  EXPECT_EQ(judge_after(restless, 100).fast_deviation({}), of_steady) << "it was seen before";
}

TEST(YardstickJudge, HoldsStudiesOfDifferentHoursAgainstTheSameLevel) {
  EXPECT_EQ(judge_after(std::vector<double>(30, 170), 100).fast_ns(), 100);
  EXPECT_EQ(judge_after(std::vector<double>(30, 97), 100).fast_ns(), 100);
  EXPECT_EQ(judge_after(std::vector<double>(30, 80), 100).fast_ns(), 80) << "another speed than the remembered one";
  std::vector<double> drifting(27, 100);
  drifting.insert(drifting.end(), 3, 80);
  EXPECT_EQ(judge_after(drifting, 100).fast_ns(), 100) << "a few lucky visits are no other speed";
}

TEST(YardstickJudge, AMachineThatNeverReachesItsRememberedLevelIsSlowThroughout) {
  const YardstickJudge slow = judge_after(std::vector<double>(30, 170), 100);
  EXPECT_TRUE(slow.is_slow_throughout());
  EXPECT_FALSE(slow.condemns(visit_at(300, 170))) << "it is measured as it is";
  EXPECT_TRUE(slow.condemns(visit_at(350, 170)));
  const YardstickJudge fast = judge_after(std::vector<double>(30, 101), 100);
  EXPECT_FALSE(fast.is_slow_throughout());
  EXPECT_GT(slow.fast_deviation({}), fast.fast_deviation({})) << "what is remembered is less sure than what was seen";
}

TEST(YardstickJudge, AProgramWithAnotherYardstickIsHeldAgainstItselfAlone) {
  YardstickJudge judge(15, 4);
  for (int i = 0; i < 10; ++i) judge.add(visit_at(70, 70));
  EXPECT_EQ(judge.fast_ns(), 70);
  EXPECT_FALSE(judge.is_slow_throughout());
}

/// Visits that were kept, at these levels.
Study study_at(const std::vector<double>& levels) {
  Study study;
  for (const double level : levels) {
    study.visits.push_back(visit_at(level, level));
    study.visits.back().samples_ns = {1};
  }
  return study;
}

TEST(YardstickJudge, CondemnsALongVisitThatTheHostTookTimeFrom) {
  const YardstickJudge judge = judge_after(std::vector<double>(30, 100));
  Visit visit = visit_at(100, 100);
  visit.load = MachineLoad{1, 0.6};
  visit.took_s = 0.05;
  EXPECT_FALSE(judge.condemns(visit));  // too short to tell
  visit.took_s = 2;
  EXPECT_TRUE(judge.condemns(visit));
}

TEST(EvidenceVisits, TakeInWhatWasCondemnedByAnEarlierLevel) {
  Study study = study_at(std::vector<double>(20, 100));
  study.visits.front().status = VisitStatus::disturbed;
  study.visits.back().status = VisitStatus::failed;
  EXPECT_EQ(evidence_visits(study).size(), 19U);
}

TEST(EvidenceVisits, LeaveOutWhatWasKeptBeforeTheMachineShowedItsSpeed) {
  const Study study = study_at({270, 271, 269, 100, 101, 99, 100, 102, 270, 100});
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
