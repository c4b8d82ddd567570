#include "measure/loop/run_cost.h"

#include <gtest/gtest.h>

namespace mileage {
namespace {

Plan plan_of_10_ms() {
  Plan plan;
  plan.budget_ms = 10;
  plan.min_frames = 20;
  plan.heavy_frames = 10;
  plan.min_ms = 50;
  return plan;
}

TEST(RunCost, HeavyFramesAreFewerAndThoseFarOverTheBudgetFewerStill) {
  EXPECT_EQ(frames_for(plan_of_10_ms(), 1, {}), 20);
  EXPECT_EQ(frames_for(plan_of_10_ms(), 5, {}), 10) << "more than a quarter of the budget";
  EXPECT_EQ(frames_for(plan_of_10_ms(), 40, {}), 4) << "as long as ten at 1.6 times the budget";
  EXPECT_EQ(frames_for(plan_of_10_ms(), 1e6, {}), 3) << "three at least";
}

TEST(RunCost, FramesLeaveHalfOfTheLongestRunFreeOnAMachineAsSlowAsItIs) {
  Plan plan = plan_of_10_ms();
  plan.counts = {1000, 2000};
  const double slow_s = 0.018;
  const RunCost cost{0.14, 4, slow_s};
  EXPECT_EQ(pooled_frames_for(plan, cost), 100) << "no time is allowed that a run might take too much of";
  plan.time_s = 30;
  EXPECT_DOUBLE_EQ(longest_run_s(plan), 3);
  const int frames = pooled_frames_for(plan, cost);
  EXPECT_EQ(frames, 71);
  EXPECT_LE(predicted_s(plan, {}, cost, frames), 1.5);
  EXPECT_GT(predicted_s(plan, {}, cost, frames + 1), 1.5);
  EXPECT_EQ(frames_for(plan, 10, cost), 10) << "these are few anyway";
  EXPECT_EQ(frames_for(plan, 10, {1.4, 4, slow_s}), 3) << "setting up takes nearly all";
  EXPECT_EQ(pooled_frames_for(plan, {1.6, 4, slow_s}), 3);
  plan.time_s = 300;
  EXPECT_EQ(pooled_frames_for(plan, cost), 100);
}

mileage::Run range_finding_run(double frame_ms, double took_s) {
  mileage::Run run;
  run.warmup_ns.assign(3, static_cast<std::int64_t>(frame_ms * 1e6));
  run.samples_ns.assign(2, static_cast<std::int64_t>(frame_ms * 1e6));
  run.took_s = took_s;
  return run;
}

TEST(RunCost, ARunTakesWhatStandsBesideItsFramesAndTheFrames) {
  // 0.15 s, of which five frames took 0.05.
  const mileage::Run heavy = range_finding_run(10, 0.15);
  const mileage::Run light = range_finding_run(1, 0.105);
  EXPECT_NEAR(predicted_s(plan_of_10_ms(), heavy.series, run_cost_of(heavy), 20), 0.1 + 3 * 0.01 + 20 * 0.01, 1e-9);
  EXPECT_NEAR(predicted_s(plan_of_10_ms(), light.series, run_cost_of(light), 20), 0.1 + 3 * 0.001 + 0.05, 1e-9)
      << "the least time of a run";
}

TEST(RunCost, AtAnotherCountFramesAndSettingUpChangeAndStartingDoesNot) {
  const RunCost cost{0.12, 4, 0.01};
  const RunCost there = cost.at(3, 0.03);
  EXPECT_DOUBLE_EQ(there.beside_s, 0.02 + 3 * 0.1);
  EXPECT_DOUBLE_EQ(there.frame_s, 0.03);
  EXPECT_DOUBLE_EQ(RunCost({0.01, 4, 0.01}).at(3, 0.03).beside_s, 0.01) << "nothing is set up";
}

TEST(KnownCosts, AreScaledFromTheNearestCount) {
  KnownCosts known;
  EXPECT_TRUE(known.empty());
  known.add(1000, {0.12, 4, 0.002}, 1);
  known.add(4000, {0.12, 4, 0.008}, 4);
  known.add(4000, {0.12, 4, 0.009}, 4.5);  // The latest counts.
  EXPECT_DOUBLE_EQ(known.fast_ms(500), 0.5);
  EXPECT_DOUBLE_EQ(known.fast_ms(2000), 2.25);
  EXPECT_DOUBLE_EQ(known.at(8000).frame_s, 0.018);
  EXPECT_DOUBLE_EQ(known.at(8000).beside_s, 0.02 + 2 * 0.1);
}

TEST(KnownCosts, GrowBeyondTheLargestCountAsTheyGrewOrQuadratically) {
  KnownCosts known;
  known.add(1000, {0.02, 4, 0.001}, 1);
  EXPECT_DOUBLE_EQ(known.with_growth_at(10'000).frame_s, 0.1) << "nothing is known of the growth";
  known.add(4000, {0.02, 4, 0.008}, 8);
  EXPECT_NEAR(known.with_growth_at(16'000).frame_s, 0.064, 1e-9) << "with the power 1.5";
  EXPECT_DOUBLE_EQ(known.with_growth_at(2000).frame_s, known.at(2000).frame_s);
}

TEST(RunCost, ARunThatHadToBeEndedTellsNothingOfWhatStandsBeside) {
  mileage::Run ended = range_finding_run(10, 30);
  ended.left_behind = 1;
  EXPECT_LT(predicted_s(plan_of_10_ms(), ended.series, run_cost_of(ended), 20), 0.3);
}

}  // namespace
}  // namespace mileage
