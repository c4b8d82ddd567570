#include "measure/loop/block_plan.h"

#include <algorithm>
#include <optional>

#include <gtest/gtest.h>

#include "measure/loop/aim_counts.h"
#include "measure/loop/range_finding.h"
#include "measure/loop/scripted_state.h"

namespace mileage {
namespace {

PlanRequest aiming_within(double time_s, std::int64_t max_count = 0) {
  PlanRequest request = scripted::counts({1000, 3000, 10'000, 30'000, 100'000, 300'000}, 0);
  request.aim = true;
  request.max_count = max_count;
  request.time_s = time_s;
  return request;
}

/// Objects and columns with capacities 333,333 and 166,667 at 60 Hz.
struct Planned {
  explicit Planned(double time_s, std::int64_t max_count = 0)
      : state({{"objects", 50}, {"columns", 100}}, aiming_within(time_s, max_count)) {
    state.watch.too_short = [this](const TooShort& told) { needed_s = told.needed_s; };
    find_ranges(*state);
    aim_at_figures(*state);
  }

  std::size_t cells(bool aimed) const {
    return static_cast<std::size_t>(
        std::count_if(state->cells.begin(), state->cells.end(), [&](const Cell& cell) { return cell.aimed == aimed; }));
  }

  mutable scripted::ScriptedState state;
  std::optional<double> needed_s;
};

TEST(BlockPlan, GivesUpTheLadderFirstThenEndsThenFramesUntilFiveBlocksFit) {
  const Planned ample(1000);
  EXPECT_EQ(ample.state->summary.skipped, Skipped::nothing);
  EXPECT_EQ(ample.cells(true), 10U);
  EXPECT_GT(ample.cells(false), 7U);

  Skipped before = Skipped::nothing;
  for (const double time_s : {60.0, 40.0, 30.0, 25.0, 20.0, 16.0, 12.0, 8.0, 5.0}) {
    const Planned planned(time_s);
    const Skipped skipped = planned.state->summary.skipped;
    EXPECT_GE(skipped, before) << "with less time, more is given up: " << time_s;
    before = skipped;
    if (skipped < Skipped::middles) {
      EXPECT_EQ(planned.cells(true), skipped >= Skipped::ends ? 6U : 10U) << time_s;
    }
    if (skipped >= Skipped::ladder) {
      EXPECT_LE(planned.cells(false), 4U) << "two footholds a series at most: " << time_s;
    }
    if (!planned.needed_s) {
      EXPECT_LE(5 * predicted_block_s(*planned.state), 0.96 * (time_s - planned.state->recorder.runs_s()))
          << "with room for what comes between blocks: " << time_s;
    }
    if (skipped < Skipped::half_the_frames) continue;
    for (const Cell& cell : planned.state->cells) EXPECT_LE(cell.min_frames, cell.aimed ? 5 : 10);
  }
  EXPECT_GE(before, Skipped::half_the_frames) << "the shortest time must have cost frames";
}

TEST(BlockPlan, GivesUpCountsAroundFiguresLastAndLeavesThreeOfEverySeries) {
  bool hno_refine_up_sides = false;
  for (const double time_s : {5.0, 4.5, 4.0, 3.5, 3.0}) {
    const Planned planned(time_s);
    const Skipped skipped = planned.state->summary.skipped;
    if (skipped < Skipped::middles) continue;
    hno_refine_up_sides = hno_refine_up_sides || skipped == Skipped::sides;
    for (const std::size_t series : {0U, 1U}) {
      const auto of_series = [&](const Cell& cell) { return cell.series == series; };
      const auto aimed = [&](const Cell& cell) { return cell.series == series && cell.aimed; };
      const auto& cells = planned.state->cells;
      const auto all = std::count_if(cells.begin(), cells.end(), of_series);
      const auto around = std::count_if(cells.begin(), cells.end(), aimed);
      EXPECT_GE(all, 3) << time_s;
      const auto wanted = skipped == Skipped::middles ? 2 : 1;
      EXPECT_EQ(around, std::max<std::ptrdiff_t>(wanted, 3 - (all - around))) << time_s;
    }
  }
  EXPECT_TRUE(hno_refine_up_sides);
}

TEST(BlockPlan, LeavesThreeOfASeriesWhoseFiguresAreGivenUpOrBeyondItsLimit) {
  const scripted::FrameTimes steep = [](std::int64_t count, std::int64_t) { return 20 * count; };
  const scripted::FrameTimes flat = [](std::int64_t count, std::int64_t) { return 200'000 + 10 * count; };
  scripted::ScriptedState state({{"objects", steep}, {"columns", flat}}, aiming_within(0.6, 300'000));
  find_ranges(*state);
  aim_at_figures(*state);
  ASSERT_GE(state->summary.skipped, Skipped::break_evens);
  for (const std::size_t series : {0U, 1U})
    EXPECT_GE(std::count_if(state->cells.begin(), state->cells.end(),
                            [&](const Cell& cell) { return cell.series == series; }),
              3);
}

TEST(BlockPlan, KeepsCountsBelowAFigureThatMayNotBePassed) {
  const Planned planned(3, 340'000);
  ASSERT_EQ(planned.state->summary.skipped, Skipped::sides);
  const auto below = [&](const Cell& cell) { return cell.series == 0 && cell.aimed; };
  EXPECT_EQ(std::count_if(planned.state->cells.begin(), planned.state->cells.end(), below), 2);
}

TEST(BlockPlan, KeepsThreeCountsAndTheirFramesAroundWhatMostFramesHold) {
  PlanRequest request = aiming_within(3);
  request.goal.for_99 = true;
  scripted::ScriptedState state({{"objects", 50}, {"columns", 100}}, request);
  find_ranges(*state);
  aim_at_figures(*state);
  EXPECT_EQ(state->summary.skipped, Skipped::break_evens);
  int pooled = 0, others = 0;
  for (const Cell& cell : state->cells) {
    if (!cell.aimed) continue;
    (cell.pooled ? pooled : others) += 1;
    if (cell.pooled) {
      EXPECT_GT(cell.min_frames, 20) << cell.count;
    } else {
      EXPECT_LE(cell.min_frames, 5) << cell.count;
    }
  }
  EXPECT_EQ(pooled, 6);
  EXPECT_EQ(others, 6);
}

TEST(BlockPlan, WhereRunsAreShorterMostFramesTakeMoreBlocks) {
  const auto needed_s = [](double time_s) {
    PlanRequest request = aiming_within(time_s);
    request.goal.for_99 = true;
    double needed = 0;
    scripted::ScriptedState state({{"objects", 50}, {"columns", 100}}, request);
    state.watch.too_short = [&](const TooShort& told) { needed = told.needed_s; };
    find_ranges(*state);
    aim_at_figures(*state);
    return needed;
  };
  const double in_short_runs_s = needed_s(8);
  const double in_whole_runs_s = needed_s(22);
  EXPECT_GT(in_short_runs_s, 22);
  EXPECT_NEAR(in_short_runs_s, in_whole_runs_s, 0.25 * in_whole_runs_s) << "as many frames in all";
}

TEST(BlockPlan, KeepsCheapFootholdsWhereTheLadderIsGivenUp) {
  const Planned planned(20);
  ASSERT_GE(planned.state->summary.skipped, Skipped::ladder);
  for (const std::size_t series : {0U, 1U})
    EXPECT_TRUE(std::any_of(planned.state->cells.begin(), planned.state->cells.end(), [&](const Cell& cell) {
      return cell.series == series && cell.count == 1000;
    })) << series;
  double ladder_s = 0;
  for (const Cell& cell : planned.state->cells)
    if (!cell.aimed) ladder_s += cell.predicted_s;
  EXPECT_LE(5 * ladder_s, 0.25 * 20) << "a quarter of the time at most";
}

TEST(BlockPlan, SaysHowLongFiveBlocksTakeWhereTheyDoNotFit) {
  EXPECT_FALSE(Planned(60).needed_s);
  const Planned hopeless(3);
  ASSERT_TRUE(hopeless.needed_s);
  EXPECT_GT(*hopeless.needed_s, 3);
  EXPECT_FALSE(Planned(1.05 * *hopeless.needed_s).needed_s) << "with that time they do";
}

TEST(BlockPlan, SaysSoWhereThereIsNoTimeToPlaceThreeCounts) {
  const auto told = [](double time_s) {
    std::optional<double> needed_s;
    const scripted::FrameTimes alike = [](std::int64_t, std::int64_t) { return 10'000'000; };
    PlanRequest request = aiming_within(time_s);
    request.budget_ms = 100;
    scripted::ScriptedState state({{"objects", alike}, {"columns", alike}}, request);
    state.watch.too_short = [&](const TooShort& told) { needed_s = told.needed_s; };
    find_ranges(*state);
    aim_at_figures(*state);
    return needed_s;
  };
  const auto needed_s = told(0.6);
  ASSERT_TRUE(needed_s);
  EXPECT_GT(*needed_s, 0.6);
  EXPECT_FALSE(told(1.1 * *needed_s));
}

TEST(BlockPlan, ABlockThatOverranIsFollowedByASmallerOne) {
  Planned planned(60);
  const std::size_t before = planned.state->cells.size();
  planned.state->overrun = 4;
  plan_block(*planned.state, 1);
  EXPECT_LT(planned.state->cells.size(), before);
}

TEST(BlockPlan, BlocksOfOneStudyDoNotDifferInTheirCountsAroundFigures) {
  Planned planned(60);
  planned.state->overrun = 100;
  plan_block(*planned.state, 1);
  EXPECT_EQ(planned.state->summary.skipped, Skipped::break_evens);
  EXPECT_EQ(planned.cells(true), 6U);
}

TEST(BlockPlan, ASlowBlockCostsNoFootholds) {
  Planned planned(20);
  ASSERT_GE(planned.state->summary.skipped, Skipped::ladder);
  const std::size_t footholds = planned.cells(false);
  ASSERT_GT(footholds, 0U);
  planned.state->overrun = 100;
  plan_block(*planned.state, 1);
  EXPECT_EQ(planned.cells(false), footholds) << "what the first block measured there would be lost";
}

TEST(BlockPlan, ABlockTakesWhatItsCellsTake) {
  scripted::ScriptedState state({{"objects", 50}}, scripted::counts({1000}));
  state->cells = {{0, 1000, false, 20, 0.5}, {0, 2000, false, 20, 0.25}};
  EXPECT_EQ(predicted_block_s(*state), 0.75);
}

TEST(BlockPlan, NothingIsTriedBeyondALimitOrALargestCount) {
  scripted::ScriptedState state({{"objects", 50}}, aiming_within(60, 120'000));
  EXPECT_TRUE(may_be_tried(*state, 0, 100'000));
  EXPECT_FALSE(may_be_tried(*state, 0, 121'000));
  state->end_at(0, 50'000);
  EXPECT_FALSE(may_be_tried(*state, 0, 50'000));
  EXPECT_TRUE(may_be_tried(*state, 0, 49'999));
}

TEST(RoughCost, IsThatOfTheNearestCountAboveInProportion) {
  EXPECT_DOUBLE_EQ(rough_cost({{100, 1.0}, {1000, 8.0}}, 500), 4.0);
  EXPECT_DOUBLE_EQ(rough_cost({{100, 1.0}, {1000, 8.0}}, 2000), 16.0);
}

TEST(CostNear, IsOfTheMachineAsSlowAsItWas) {
  const RunCost run{0.5, 4, 3e-3};
  ASSERT_EQ(run.frame_s, 3e-3);
  EXPECT_NEAR(cost_near({{100, 2.0}}, {{100, run}}, 200).frame_s, 6e-3, 1e-12) << "3 ms where 2 are usual";
  EXPECT_NEAR(cost_near({{100, 4.0}}, {{100, run}}, 200).frame_s, 8e-3, 1e-12) << "never faster than usual";
}

}  // namespace
}  // namespace mileage
