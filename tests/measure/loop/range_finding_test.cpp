#include "measure/loop/range_finding.h"

#include <map>

#include <gtest/gtest.h>

#include "measure/loop/scripted_state.h"

namespace mileage {
namespace {

std::vector<std::int64_t> ladder_of(scripted::ScriptedState& state, std::size_t series) {
  std::vector<std::int64_t> counts;
  for (const Cell& cell : state->ladder)
    if (cell.series == series) counts.push_back(cell.count);
  return counts;
}

PlanRequest aimed_at(std::vector<std::int64_t> counts) {
  PlanRequest request = scripted::counts(std::move(counts));
  request.aim = true;
  return request;
}

// Objects pass the budget at 333,333, columns at 1,666,667.
TEST(RangeFinding, GrowsByAtMostFourUntilTheBudgetIsCrossed) {
  scripted::ScriptedState state({{"objects", 50}, {"columns", 10}}, aimed_at({100'000, 200'000, 800'000, 1'600'000}));
  find_ranges(*state);
  EXPECT_EQ(ladder_of(state, 0), (std::vector<std::int64_t>{100'000, 200'000}));
  EXPECT_EQ(ladder_of(state, 1), (std::vector<std::int64_t>{100'000, 200'000, 800'000, 1'600'000}));
  EXPECT_EQ(state->left_out.at({0, 800'000}), LeftOutWhy::over_budget);
  std::map<std::string, std::int64_t> last;
  for (const mileage::Run& run : state.runs()) {
    EXPECT_EQ(run.status, RunStatus::range_finding);
    const std::int64_t before = last[run.series.variant];
    if (before > 0) EXPECT_LE(run.count, 4 * before);
    last[run.series.variant] = run.count;
  }
  EXPECT_GT(last["objects"], 333'333);
  EXPECT_LT(last["objects"], 450'000);
  EXPECT_GT(last["columns"], 1'666'667) << "beyond the plan's counts";
}

TEST(RangeFinding, ListedCountsAreAllTried) {
  PlanRequest request = aimed_at({100'000, 800'000, 1'600'000});
  request.listed = true;
  scripted::ScriptedState state({{"objects", 50}}, request);
  find_ranges(*state);
  EXPECT_EQ(ladder_of(state, 0), request.counts);
  EXPECT_LT(state->ladder.back().min_frames, state.head.plan.heavy_frames) << "fewer frames where they are dear";
}

TEST(RangeFinding, EndsWithItsShareOfTheTime) {
  PlanRequest request = aimed_at({10, 100, 1000});
  request.time_s = 10;
  scripted::ScriptedState state({{"objects", 50'000'000}, {"columns", 40}}, request);  // Frames of 0.5 s at once.
  find_ranges(*state);
  EXPECT_LE(state->recorder.runs_s(), 0.5 * 10);
  EXPECT_FALSE(ladder_of(state, 0).empty());
}

// A run may take 1 s; frames of 0.2 s at 40,000 fit, those at 160,000 do not.
TEST(RangeFinding, DoesNotTryWhatWouldRunIntoItsLimit) {
  PlanRequest request = aimed_at({10'000});
  request.time_s = 10;
  request.budget_ms = 2000;
  scripted::ScriptedState state({{"objects", 5000}}, request);
  find_ranges(*state);
  for (const mileage::Run& run : state.runs()) {
    EXPECT_NE(run.status, RunStatus::failed);
    EXPECT_LT(run.took_s, 1);
  }
  EXPECT_TRUE(state->may_run(0, 1'000'000)) << "no limit was met";
}

TEST(RangeFinding, EndsWhereCostsDoNotGrow) {
  scripted::ScriptedState state(
      std::vector<std::pair<std::string, scripted::FrameTimes>>{
          {"objects", [](std::int64_t, std::int64_t) { return 300'000; }}},
      aimed_at({10, 1000}));
  find_ranges(*state);
  EXPECT_EQ(state.runs().back().count, 2560) << "10 times four, once beyond the plan";
}

TEST(RangeFinding, NoCountBeyondTheLargestThatMayBeTried) {
  PlanRequest request = aimed_at({10'000, 100'000});
  request.max_count = 120'000;
  scripted::ScriptedState state({{"objects", 50}}, request);
  find_ranges(*state);
  for (const mileage::Run& run : state.runs()) EXPECT_LE(run.count, 120'000);
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
  EXPECT_EQ(state->ladder.size(), 6U);
  EXPECT_TRUE(state.runs().empty());
}

}  // namespace
}  // namespace mileage
