#include "measure/loop/checking.h"

#include <algorithm>
#include <set>
#include <string>
#include <vector>

#include <gtest/gtest.h>

#include "measure/loop/check_plan.h"
#include "measure/loop/range_finding.h"
#include "measure/loop/rounds.h"
#include "measure/loop/scripted_state.h"

namespace mileage {
namespace {

TEST(Checking, MakesTheChecksOfThePlan) {
  scripted::ScriptedState state({{"objects", 50}, {"columns", 10}}, scripted::counts({100, 1000}));
  check_outcomes(*state);
  EXPECT_EQ(state.runs().size(), checks_of(state.head.scenario, state.head.plan).size());
  for (const mileage::Run& run : state.runs()) {
    EXPECT_EQ(run.status, RunStatus::check);
    EXPECT_EQ(run.block, -1);
  }
}

TEST(Checking, AWorldTooDearForTheTimeIsMadeSmaller) {
  PlanRequest request = scripted::counts({10, 2000}, 0);
  request.time_s = 10;  // A tenth for checks; twenty frames of 2,000 take 40 s.
  scripted::ScriptedState state({{"objects", 1'000'000}, {"columns", 1'000'000}}, request);
  check_outcomes(*state);
  std::set<std::int64_t> counts;
  for (const mileage::Run& run : state.runs()) counts.insert(run.count);
  EXPECT_EQ(counts, (std::set<std::int64_t>{10, 24, 2000})) << "what fits by the two that were tried";
}

TEST(Checking, NoSmallerWorldIsTriedWhereSettingUpTakesTheTime) {
  PlanRequest request = scripted::counts({10, 2000}, 0);
  request.time_s = 18;  // A tenth for two worlds of one second each.
  const scripted::FrameTimes alike = [](std::int64_t, std::int64_t) { return 50'000'000; };
  scripted::ScriptedState state({{"objects", alike}, {"columns", alike}}, request);
  check_outcomes(*state);
  std::vector<std::int64_t> counts;
  for (const mileage::Run& run : state.runs()) counts.push_back(run.count);
  EXPECT_EQ(counts, (std::vector<std::int64_t>{10, 10, 2000}));
}

std::vector<std::string> excluded(scripted::ScriptedState& state) {
  check_outcomes(*state);
  EXPECT_EQ(std::count(state->is_excluded.begin(), state->is_excluded.end(), true), 0) << "not seen at first";
  find_ranges(*state);
  find_cells(*state);
  check_what_is_measured(*state);
  std::vector<std::string> out;
  for (std::size_t series = 0; series < state->plan.series.size(); ++series)
    if (state->is_excluded[series]) out.push_back(state->plan.series[series].variant);
  for (const Cell& cell : state->cells) EXPECT_FALSE(state->is_excluded[cell.series]);
  return out;
}

TEST(Checking, FindsWorkThatEndsBeyondSomeCount) {
  scripted::ScriptedState state({{"objects", 50}, {scripted::narrow_index, 10}, {"columns", 10}},
                                scripted::counts({100, 1000, 100'000}));
  EXPECT_EQ(excluded(state), (std::vector<std::string>{scripted::narrow_index}));
}

TEST(Checking, FindsWorkThatStopsAfterAWhile) {
  scripted::ScriptedState state({{"objects", 50}, {scripted::stops, 10}, {"columns", 10}},
                                scripted::counts({100, 1000}));
  EXPECT_EQ(excluded(state), (std::vector<std::string>{scripted::stops}));
}

std::size_t cells_of(scripted::ScriptedState& state, std::size_t series) {
  const std::vector<Cell>& cells = state->cells;
  return static_cast<std::size_t>(
      std::count_if(cells.begin(), cells.end(), [&](const Cell& cell) { return cell.series == series; }));
}

TEST(Checking, FindsInRunsOfBlocksWorkThatStopsAtLargeCountsAfterAWhile) {
  scripted::ScriptedState state({{"objects", 20}, {scripted::stops_when_large, 10}, {"columns", 10}},
                                scripted::counts({100, 1000, 10'000}, 40));
  EXPECT_TRUE(excluded(state).empty());
  EXPECT_EQ(cells_of(state, 1), 3U);
  make_rounds(*state);
  EXPECT_EQ(cells_of(state, 1), 0U);
  EXPECT_EQ(cells_of(state, 2), 3U);
}

TEST(Checking, OfRunsInBlocksTakesItsShareOfTheTime) {
  scripted::ScriptedState state({{"objects", 50}, {"columns", 10}}, scripted::counts({100, 1000, 10'000}, 40));
  EXPECT_TRUE(excluded(state).empty());
  const double before_s = state->recorder.runs_s();
  make_rounds(*state);
  EXPECT_GT(state->run_checks_s, 0);
  EXPECT_LE(state->run_checks_s, 0.07 * (state->recorder.runs_s() - before_s));
  int held = 0;
  for (const mileage::Run& run : state.runs())
    held += run.status == RunStatus::check && run.check_frames > 64 && run.series.variant == "columns";
  EXPECT_GT(held, 3) << "a share of the runs, and not one of the study";
}

TEST(Checking, WhatIsMeasuredIsCheckedWithinItsShareOfTheTime) {
  PlanRequest request = scripted::counts({100, 1000, 100'000, 300'000}, 0);
  request.time_s = 5;  // A frame of 300,000 takes 15 ms.
  scripted::ScriptedState state({{"objects", 50}, {"columns", 50}}, request);
  check_outcomes(*state);
  find_ranges(*state);
  find_cells(*state);
  const double before_s = state->recorder.runs_s();
  check_what_is_measured(*state);
  EXPECT_LE(state->recorder.runs_s() - before_s, 0.09 * request.time_s);
  EXPECT_EQ(state.runs().back().count, 300'000);
  EXPECT_LT(state.runs().back().check_frames, check_frames) << "fewer frames where they are dear";
}

TEST(Checking, StopsWhenAsked) {
  scripted::ScriptedState state({{"objects", 50}, {"columns", 10}}, scripted::counts({100, 1000}));
  state.watch.stop = [&] { return state.runs().size() >= 1; };
  check_outcomes(*state);
  EXPECT_EQ(state.runs().size(), 1U);
  EXPECT_TRUE(state->summary.stopped);
}

}  // namespace
}  // namespace mileage
