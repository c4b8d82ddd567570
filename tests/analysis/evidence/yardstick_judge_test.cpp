#include "analysis/evidence/yardstick_judge.h"

#include <cmath>

#include <gtest/gtest.h>

namespace mileage {
namespace {

/// A run whose probes took so long: on average in both halves, and in its fastest tenth.
Run run_at(double level_ns, double fast_ns) {
  Run run;
  run.yardstick = YardstickReading{3, 20, level_ns, level_ns, fast_ns};
  return run;
}

YardstickJudge judge_after(const std::vector<double>& fast, std::optional<double> remembered = {}) {
  YardstickJudge judge(remembered);
  for (const double ns : fast) judge.add(run_at(ns, ns));
  return judge;
}

TEST(YardstickJudge, CondemnsARunAtTwiceTheFastLevel) {
  const YardstickJudge judge = judge_after({100, 101, 102, 100, 100});
  EXPECT_FALSE(judge.condemns(run_at(180, 100)));
  EXPECT_TRUE(judge.condemns(run_at(210, 100)));
  EXPECT_NEAR(*judge.slowness(run_at(180, 100)), 1.8, 1e-9);
}

TEST(YardstickJudge, WithoutReadingsCondemnsNothing) {
  EXPECT_FALSE(YardstickJudge(std::nullopt).condemns(run_at(1, 1)));
  EXPECT_FALSE(judge_after({100}).condemns(Run{}));
  EXPECT_FALSE(judge_after({100}).slowness(Run{}));
}

TEST(YardstickJudge, CountsArePlacedByWhatFramesWouldTakeAtTheFastLevel) {
  const YardstickJudge judge = judge_after({100, 100, 100});
  Run run = run_at(150, 100);
  run.samples_ns = {2'000'000};
  EXPECT_NEAR(judge.rough_fast_ms(run), 2 * std::exp(-0.8 * 0.4 - 0.45 * (std::log(1.5) - 0.4)), 1e-9);
  const double beyond = std::log(1.5) - 0.4;
  EXPECT_NEAR(judge.rough_fast_deviation(run), std::hypot(0.22 * 0.4, 0.44 * beyond, 0.2 * (0.4 + beyond)), 1e-9);
  run.yardstick.reset();
  EXPECT_NEAR(judge.rough_fast_ms(run), 2, 1e-9);
  EXPECT_EQ(judge.rough_fast_deviation(run), 0);
}

TEST(YardstickJudge, HoldsProbesOfAKindAgainstTheirOwnLevel) {
  Head head;
  head.remembered_yardstick_ns = 100;
  head.remembered_on_cores_ns["2"] = 150;
  YardstickJudge judge(head);
  Run alone = run_at(110, 101);
  Run on_two = run_at(180, 155);
  on_two.yardstick->cores = 2;
  Run of_a_program = run_at(40, 40);
  of_a_program.yardstick->program = "lanterns";
  for (const Run& run : {alone, on_two, of_a_program}) judge.add(run);
  EXPECT_NEAR(*judge.slowness(alone), 1.1, 1e-9);
  EXPECT_NEAR(*judge.slowness(on_two), 1.2, 1e-9);
  EXPECT_NEAR(*judge.slowness(of_a_program), 1, 1e-9) << "nothing is remembered of it";
  EXPECT_EQ(judge.own_fast_by_cores_ns(), (std::map<int, double>{{1, 101}, {2, 155}}));
  EXPECT_EQ(judge.fast_ns(), 100) << "a study is told by Mileage's own probes on one core";
}

TEST(YardstickJudge, ATwentiethOfTheRunsShowsTheFastLevel) {
  std::vector<double> fast(60, 170);
  fast.insert(fast.end(), 3, 100);
  EXPECT_EQ(judge_after(fast).fast_ns(), 170) << "a few lucky runs do not";
  fast.insert(fast.end(), 1, 100);
  EXPECT_EQ(judge_after(fast).fast_ns(), 100);
}

TEST(YardstickJudge, AQuarterOfTheRunsMakesAStudyFast) {
  std::vector<double> fast(30, 170);
  fast.insert(fast.end(), 4, 100);
  EXPECT_TRUE(judge_after(fast, 100).is_slow_throughout());
  EXPECT_FALSE(judge_after(fast).condemns(run_at(300, 170))) << "it is measured as it is";
  fast.insert(fast.end(), 10, 100);
  EXPECT_FALSE(judge_after(fast, 100).is_slow_throughout());
  EXPECT_TRUE(judge_after(fast).condemns(run_at(300, 170)));
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
  EXPECT_EQ(judge_after(drifting, 100).fast_ns(), 100) << "a few lucky runs are no other speed";
}

TEST(YardstickJudge, AMachineThatNeverReachesItsRememberedLevelIsSlowThroughout) {
  const YardstickJudge slow = judge_after(std::vector<double>(30, 170), 100);
  EXPECT_TRUE(slow.is_slow_throughout());
  EXPECT_FALSE(slow.condemns(run_at(300, 170))) << "it is measured as it is";
  EXPECT_TRUE(slow.condemns(run_at(350, 170)));
  const YardstickJudge fast = judge_after(std::vector<double>(30, 101), 100);
  EXPECT_FALSE(fast.is_slow_throughout());
  EXPECT_GT(slow.fast_deviation({}), fast.fast_deviation({})) << "what is remembered is less sure than what was seen";
}

TEST(YardstickJudge, AProgramWithAnotherYardstickIsHeldAgainstItselfAlone) {
  YardstickJudge judge(15, 4);
  for (int i = 0; i < 10; ++i) judge.add(run_at(70, 70));
  EXPECT_EQ(judge.fast_ns(), 70);
  EXPECT_FALSE(judge.is_slow_throughout());
}

/// Runs that were kept, at these levels.
Study study_at(const std::vector<double>& levels) {
  Study study;
  for (const double level : levels) {
    study.runs.push_back(run_at(level, level));
    study.runs.back().samples_ns = {1};
  }
  return study;
}

TEST(YardstickJudge, CondemnsALongRunThatTheHostTookTimeFrom) {
  const YardstickJudge judge = judge_after(std::vector<double>(30, 100));
  Run run = run_at(100, 100);
  run.load = MachineLoad{1, 0.6};
  run.took_s = 0.05;
  EXPECT_FALSE(judge.condemns(run));  // too short to tell
  run.took_s = 2;
  EXPECT_TRUE(judge.condemns(run));
}

TEST(EvidenceRuns, TakeInWhatWasCondemnedByAnEarlierLevel) {
  Study study = study_at(std::vector<double>(20, 100));
  study.runs.front().status = RunStatus::disturbed;
  study.runs.back().status = RunStatus::failed;
  EXPECT_EQ(evidence_runs(study).size(), 19U);
}

TEST(EvidenceRuns, LeaveOutWhatWasKeptBeforeTheMachineShowedItsSpeed) {
  const Study study = study_at({270, 271, 269, 100, 101, 99, 100, 102, 270, 100});
  const auto runs = evidence_runs(study);
  ASSERT_EQ(runs.size(), 6U);
  for (const Run* run : runs) EXPECT_LT(run->yardstick->level_ns(), 134);
}

TEST(EvidenceRuns, AreAllOfThemWhereNoYardstickWasTaken) {
  Study study = study_at({100, 500});
  for (Run& run : study.runs) run.yardstick.reset();
  EXPECT_EQ(evidence_runs(study).size(), 2U);
}

}  // namespace
}  // namespace mileage
