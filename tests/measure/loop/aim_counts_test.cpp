#include "measure/loop/aim_counts.h"

#include <algorithm>
#include <cstdlib>

#include <gtest/gtest.h>

#include "measure/loop/blocks.h"
#include "measure/loop/range_finding.h"
#include "measure/loop/scripted_state.h"

namespace mileage {
namespace {

PlanRequest aiming(std::vector<std::int64_t> counts) {
  PlanRequest request = scripted::counts(std::move(counts));
  request.aim = true;
  request.goal.figure = "capacity";
  return request;
}

std::vector<std::int64_t> aimed_cells(const StudyState& state) {
  std::vector<std::int64_t> counts;
  for (const Cell& cell : state.cells)
    if (cell.aimed) counts.push_back(cell.count);
  std::sort(counts.begin(), counts.end());
  return counts;
}

TEST(AimCounts, PutsFiveCountsAroundACapacity) {
  scripted::ScriptedState state({{"objects", 50}}, aiming({10'000, 100'000, 1'000'000}));  // Capacity 333,333.
  find_ranges(*state);
  aim_at_figures(*state);
  const auto counts = aimed_cells(*state);
  ASSERT_EQ(counts.size(), 5U);
  EXPECT_LT(counts.front(), 300'000);
  EXPECT_GT(counts.back(), 370'000);
  EXPECT_NEAR(static_cast<double>(counts[2]), 333'333, 5000);
  EXPECT_TRUE(std::none_of(state->cells.begin(), state->cells.end(), [](const Cell& cell) {
    return cell.count == 1'000'000;
  })) << "beyond the capacity a count of the ladder says nothing";
}

// 50 ns per entity, 1,000 ns for each of 5,000 arriving: 16.67 ms at 233,333.
TEST(AimCounts, PutsCountsAroundTheWorstFramesToo) {
  PlanRequest request = aiming({10'000, 100'000, 200'000, 300'000});
  request.arrive = 5000;
  scripted::ScriptedState state({{"objects", 50}}, request);
  find_ranges(*state);
  aim_at_figures(*state);
  make_blocks(*state);
  const auto counts = aimed_cells(*state);
  EXPECT_EQ(std::count_if(counts.begin(), counts.end(), [](std::int64_t count) { return count < 280'000; }), 5)
      << "four around 233,333, beside the first around 333,333";
  EXPECT_TRUE(std::any_of(counts.begin(), counts.end(),
                          [](std::int64_t count) { return std::llabs(count - 233'333) < 10'000; }));
}

// 50 ns per entity, every twentieth frame twice that: 99 % fit up to 166,667.
TEST(AimCounts, PutsPooledCountsWhereMostFramesPassTheBudget) {
  PlanRequest request = aiming({10'000, 100'000, 200'000, 300'000});
  request.goal.for_99 = true;
  const scripted::FrameTimes with_spikes = [](std::int64_t count, std::int64_t frame) {
    return (frame % 20 == 10 ? 100 : 50) * count;
  };
  scripted::ScriptedState state({{"objects", with_spikes}}, request);
  find_ranges(*state);
  aim_at_figures(*state);
  const auto pooled = [&] {
    std::vector<std::int64_t> counts;
    for (const Cell& cell : state->cells)
      if (cell.pooled) counts.push_back(cell.count);
    std::sort(counts.begin(), counts.end());
    return counts;
  };
  ASSERT_EQ(pooled().size(), 5U);
  EXPECT_NEAR(static_cast<double>(pooled()[2]), 333'333, 5000) << "until frames are measured, at the typical ones";
  make_blocks(*state);
  ASSERT_EQ(pooled().size(), 5U);
  EXPECT_LT(pooled().front(), 150'000);
  EXPECT_GT(pooled().back(), 185'000);
  EXPECT_LT(pooled().back(), 260'000);
  const auto aimed = aimed_cells(*state);
  EXPECT_EQ(std::count_if(aimed.begin(), aimed.end(), [](std::int64_t count) { return count > 260'000; }), 4)
      << "those around the typical capacity stay";
}

// The second block is slower below the capacity of 333,333.
TEST(AimCounts, ASpikeMovesNone) {
  const std::vector<mileage::Run>* runs = nullptr;
  int spiked = 0;
  const scripted::FrameTimes with_spike = [&](std::int64_t count, std::int64_t frame) {
    const auto before = runs == nullptr ? 0 : std::count_if(runs->begin(), runs->end(), [&](const mileage::Run& run) {
      return run.status == RunStatus::kept && run.count == count;
    });
    const bool is_spiked = before == 1 && count > 220'000 && count < 320'000;
    spiked += is_spiked && frame == 0;
    return (is_spiked ? 100 : 50) * count;
  };
  scripted::ScriptedState state({{"objects", with_spike}}, aiming({10'000, 100'000, 1'000'000}));
  runs = &state.runs();
  find_ranges(*state);
  aim_at_figures(*state);
  const std::vector<std::int64_t> aimed = aimed_cells(*state);
  make_blocks(*state);
  EXPECT_GE(spiked, 1);
  EXPECT_EQ(aimed_cells(*state), aimed);
}

TEST(AimCounts, ReachesForABudgetThatIsNotCrossed) {
  scripted::ScriptedState state({{"objects", 50}}, aiming({10'000, 100'000}));
  find_ranges(*state);
  aim_at_figures(*state);
  EXPECT_GT(state->costs[0].rbegin()->first, 333'333) << "larger counts were tried";
  EXPECT_EQ(aimed_cells(*state).size(), 5U);
}

// Steps of 2.5 from 200,000 end at 3,125,000, below the capacity of 3,333,333.
TEST(AimCounts, ReachesOnWhereAStepEndsShortOfTheBudget) {
  scripted::ScriptedState state({{"objects", 5}}, aiming({20'000, 200'000}));
  find_ranges(*state);
  aim_at_figures(*state);
  EXPECT_GT(state->costs[0].rbegin()->first, 3'333'333);
  ASSERT_EQ(aimed_cells(*state).size(), 5U);
  EXPECT_NEAR(static_cast<double>(aimed_cells(*state)[2]), 3'333'333, 50'000);
}

// Capacities beyond the counts, with increasingly expensive runs.
const std::vector<std::pair<std::string, std::int64_t>> four_ways{
    {"objects", 25}, {"records", 20}, {"columns", 5}, {"jobs", 3}};

PlanRequest within(double time_s) {
  PlanRequest request = aiming({100, 200'000});
  request.goal = {};
  request.time_s = time_s;
  return request;
}

TEST(AimCounts, LookingEndsWhereChecksAndBlocksNeedTheTime) {
  scripted::ScriptedState state(four_ways, within(3));
  find_ranges(*state);
  ASSERT_TRUE(state->has_spent_less_than(0.1)) << "else there is nothing to see";
  aim_at_figures(*state);
  double longest_s = 0;
  for (const mileage::Run& run : state.runs()) longest_s = std::max(longest_s, run.took_s);
  EXPECT_GT(state->recorder.runs_s(), 0.24 * 3) << "else there is nothing to see";
  EXPECT_LE(state->recorder.runs_s(), 0.24 * 3 + longest_s) << "the run that passes the share is the last one";
}

// Time to reach all four, but not to refine each.
TEST(AimCounts, ReachesWithEveryWayBeforeItLooksCloser) {
  scripted::ScriptedState state(four_ways, within(5));
  find_ranges(*state);
  aim_at_figures(*state);
  EXPECT_FALSE(state->has_spent_less_than(0.24)) << "else there is nothing to see";
  for (std::size_t series = 0; series < 4; ++series)
    EXPECT_GT(state->costs[series].rbegin()->second, 16.7) << state.head.plan.series[series].variant;
}

TEST(AimCounts, NoCountBeyondTheLargestThatMayBeTried) {
  PlanRequest request = aiming({10'000, 100'000});
  request.max_count = 120'000;
  scripted::ScriptedState state({{"objects", 50}}, request);
  find_ranges(*state);
  aim_at_figures(*state);
  for (const mileage::Run& run : state.runs()) EXPECT_LE(run.count, 120'000);
}

}  // namespace
}  // namespace mileage
