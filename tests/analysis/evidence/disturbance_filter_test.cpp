#include "analysis/evidence/disturbance_filter.h"

#include <cmath>

#include <gtest/gtest.h>

namespace mileage {
namespace {

mileage::Run run_at(double mean_ns, double fast_ns) {
  mileage::Run run;
  run.yardstick = YardstickReading{3, 20, mean_ns, mean_ns, fast_ns};
  return run;
}

DisturbanceFilter judge_after(const std::vector<double>& fast, std::optional<double> remembered = {}) {
  DisturbanceFilter judge(remembered);
  for (const double ns : fast) judge.add(run_at(ns, ns));
  return judge;
}

TEST(DisturbanceFilter, CondemnsARunAtTwiceTheFullSpeed) {
  const DisturbanceFilter judge = judge_after({100, 101, 102, 100, 100});
  EXPECT_FALSE(judge.condemns(run_at(180, 100)));
  EXPECT_TRUE(judge.condemns(run_at(210, 100)));
  EXPECT_NEAR(*judge.slowness(run_at(180, 100)), 1.8, 1e-9);
}

TEST(DisturbanceFilter, WithoutReadingsCondemnsNothing) {
  EXPECT_FALSE(DisturbanceFilter(std::nullopt).condemns(run_at(1, 1)));
  EXPECT_FALSE(judge_after({100}).condemns(mileage::Run{}));
  EXPECT_FALSE(judge_after({100}).slowness(mileage::Run{}));
}

TEST(DisturbanceFilter, HoldsProbesOfAKindAgainstTheirOwnSlowdown) {
  Head head;
  head.full_speed_ns = 100;
  head.full_speed_on_cores_ns["2"] = 150;
  DisturbanceFilter judge(head);
  mileage::Run alone = run_at(110, 101);
  mileage::Run on_two = run_at(180, 155);
  on_two.yardstick->cores = 2;
  mileage::Run of_a_program = run_at(40, 40);
  of_a_program.yardstick->program = "lanterns";
  for (const mileage::Run& run : {alone, on_two, of_a_program}) judge.add(run);
  EXPECT_NEAR(*judge.slowness(alone), 1.1, 1e-9);
  EXPECT_NEAR(*judge.slowness(on_two), 1.2, 1e-9);
  EXPECT_NEAR(*judge.slowness(of_a_program), 1, 1e-9) << "nothing is remembered of it";
  EXPECT_EQ(judge.own_fast_by_cores_ns(), (std::map<int, double>{{1, 101}, {2, 155}}));
  EXPECT_EQ(judge.fast_ns(), 100) << "a study is told by Mileage's own probes on one core";
}

TEST(DisturbanceFilter, ATwentiethOfTheRunsShowsTheFullSpeed) {
  std::vector<double> fast(60, 170);
  fast.insert(fast.end(), 3, 100);
  EXPECT_EQ(judge_after(fast).fast_ns(), 170) << "a few lucky runs do not";
  fast.insert(fast.end(), 1, 100);
  EXPECT_EQ(judge_after(fast).fast_ns(), 100);
}

TEST(DisturbanceFilter, AQuarterOfTheRunsMakesAStudyFast) {
  std::vector<double> fast(30, 170);
  fast.insert(fast.end(), 4, 100);
  EXPECT_TRUE(judge_after(fast, 100).is_slow_throughout());
  EXPECT_FALSE(judge_after(fast).condemns(run_at(300, 170))) << "it is measured as it is";
  fast.insert(fast.end(), 10, 100);
  EXPECT_FALSE(judge_after(fast, 100).is_slow_throughout());
  EXPECT_TRUE(judge_after(fast).condemns(run_at(300, 170)));
}

TEST(DisturbanceFilter, HoldsStudiesOfDifferentHoursAgainstTheSameSlowdown) {
  EXPECT_EQ(judge_after(std::vector<double>(30, 170), 100).fast_ns(), 100);
  EXPECT_EQ(judge_after(std::vector<double>(30, 97), 100).fast_ns(), 100);
  EXPECT_EQ(judge_after(std::vector<double>(30, 80), 100).fast_ns(), 80) << "another speed than the remembered one";
  std::vector<double> drifting(27, 100);
  drifting.insert(drifting.end(), 3, 80);
  EXPECT_EQ(judge_after(drifting, 100).fast_ns(), 100) << "a few lucky runs are no other speed";
}

TEST(DisturbanceFilter, AMachineThatNeverReachesItsRememberedSlowdownIsSlowThroughout) {
  const DisturbanceFilter slow = judge_after(std::vector<double>(30, 170), 100);
  EXPECT_TRUE(slow.is_slow_throughout());
  EXPECT_FALSE(slow.condemns(run_at(300, 170))) << "it is measured as it is";
  EXPECT_TRUE(slow.condemns(run_at(350, 170)));
  const DisturbanceFilter fast = judge_after(std::vector<double>(30, 101), 100);
  EXPECT_FALSE(fast.is_slow_throughout());
}

TEST(DisturbanceFilter, AProgramWithAnotherYardstickIsHeldAgainstItselfAlone) {
  DisturbanceFilter judge(15, 4);
  for (int i = 0; i < 10; ++i) judge.add(run_at(70, 70));
  EXPECT_EQ(judge.fast_ns(), 70);
  EXPECT_FALSE(judge.is_slow_throughout());
}

/// Kept runs.
Study study_at(const std::vector<double>& slowdowns) {
  Study study;
  for (const double slowdown : slowdowns) {
    study.runs.push_back(run_at(slowdown, slowdown));
    study.runs.back().samples_ns = {1};
  }
  return study;
}

TEST(DisturbanceFilter, CondemnsALongRunThatTheHostTookTimeFrom) {
  const DisturbanceFilter judge = judge_after(std::vector<double>(30, 100));
  mileage::Run run = run_at(100, 100);
  run.load = MachineLoad{1, 0.6};
  run.took_s = 0.05;
  EXPECT_FALSE(judge.condemns(run));  // Too short.
  run.took_s = 2;
  EXPECT_TRUE(judge.condemns(run));
}

TEST(EvidenceRuns, TakeInWhatWasCondemnedByAnEarlierSlowdown) {
  Study study = study_at(std::vector<double>(20, 100));
  study.runs.front().status = RunStatus::disturbed;
  study.runs.back().status = RunStatus::failed;
  EXPECT_EQ(evidence_runs(study).size(), 19U);
}

TEST(EvidenceRuns, LeaveOutWhatWasKeptBeforeTheMachineShowedItsSpeed) {
  const Study study = study_at({270, 271, 269, 100, 101, 99, 100, 102, 270, 100});
  const auto runs = evidence_runs(study);
  ASSERT_EQ(runs.size(), 6U);
  for (const mileage::Run* run : runs) EXPECT_LT(run->yardstick->mean_ns(), 134);
}

TEST(EvidenceRuns, AreAllOfThemWhereNoYardstickWasTaken) {
  Study study = study_at({100, 500});
  for (mileage::Run& run : study.runs) run.yardstick.reset();
  EXPECT_EQ(evidence_runs(study).size(), 2U);
}

}  // namespace
}  // namespace mileage
