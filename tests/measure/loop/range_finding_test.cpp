#include "measure/loop/range_finding.h"

#include <gtest/gtest.h>

#include "measure/loop/scripted_state.h"

namespace mileage {
namespace {

TEST(RangeFinding, GoesUpwardsUntilASeriesIsFarOverTheBudget) {
  // Objects: 5 ms at 100k, 10 ms at 200k, over budget at 400k, far over at 800k.
  PlanRequest request = scripted::counts({100'000, 200'000, 400'000, 800'000, 1'600'000});
  request.aim = true;
  scripted::ScriptedState state({{"objects", 50}}, request);
  find_ranges(*state);
  std::vector<std::int64_t> ladder;
  for (const Cell& cell : state->ladder) ladder.push_back(cell.count);
  EXPECT_EQ(ladder, (std::vector<std::int64_t>{100'000, 200'000, 400'000, 800'000}))
      << "the first that is far over it stays";
  EXPECT_DOUBLE_EQ(state->costs[0].at(200'000), 10);
  EXPECT_EQ(state->cells.size(), state->ladder.size());
  for (const mileage::Run& run : state.runs()) EXPECT_EQ(run.status, RunStatus::range_finding);
}

TEST(RangeFinding, LooksTwiceWhereItLooksOverTheBudget) {
  scripted::ScriptedState state({{"objects", 50}}, scripted::counts({100'000, 800'000}));
  Progress progress;
  place_cell(*state, 0, 100'000, progress);
  EXPECT_EQ(state.runs().size(), 1U);
  const auto placed = place_cell(*state, 0, 800'000, progress);
  EXPECT_EQ(state.runs().size(), 3U);
  ASSERT_TRUE(placed);
  EXPECT_DOUBLE_EQ(placed->frame_ms, 40);
  EXPECT_LT(placed->cell.min_frames, state.head.plan.heavy_frames) << "fewer frames where they are dear";
}

// A run at 1,000 takes a third of a second, of ten.
TEST(RangeFinding, PassesOverCountsWhereTimeIsShort) {
  PlanRequest request = scripted::counts({1000, 1200, 1400, 1600, 1800, 2000, 2200, 2400, 2600}, 0);
  request.aim = true;
  request.time_s = 10;
  request.budget_ms = 1000;
  scripted::ScriptedState state({{"objects", 50'000}}, request);
  find_ranges(*state);
  EXPECT_LE(state->recorder.runs_s(), 0.33 * 10);
  EXPECT_GE(state->ladder.size(), 3U);
  EXPECT_EQ(state->left_out.at({0, 1200}), LeftOutWhy::range_finding_time);
}

TEST(RangeFinding, NoLargerCountBehindOneThatRanIntoItsLimit) {
  PlanRequest request = scripted::counts({1000, 2000, 4000, 8000}, 0);
  request.time_s = 10;
  scripted::ScriptedState state({{"objects", 50}, {"columns", 10}}, request);
  state->end_at(0, 4000);
  find_ranges(*state);
  for (const mileage::Run& run : state.runs()) EXPECT_TRUE(run.series.variant == "columns" || run.count < 4000);
  EXPECT_EQ(state->left_out.at({0, 8000}), LeftOutWhy::over_limit);
  EXPECT_EQ(state->left_out.count({1, 8000}), 0U);
}

TEST(RangeFinding, APersonRecordsEveryCount) {
  scripted::ScriptedState state({{"objects", 50}, {"columns", 10}}, scripted::counts({100, 1000, 10'000'000}));
  take_all_cells(*state);
  EXPECT_EQ(state->cells.size(), 6U);
  EXPECT_TRUE(state.runs().empty());
}

}  // namespace
}  // namespace mileage
