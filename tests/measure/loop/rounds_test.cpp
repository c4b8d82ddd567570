#include "measure/loop/rounds.h"

#include <algorithm>
#include <map>
#include <random>
#include <set>

#include <gtest/gtest.h>

#include "measure/loop/range_finding.h"
#include "measure/loop/scripted_state.h"

namespace mileage {
namespace {

using scripted::ScriptedState;

PlanRequest within(double time_s, std::vector<std::int64_t> counts = {100, 1000, 10'000, 100'000}) {
  PlanRequest request = scripted::counts(std::move(counts), 0);
  request.aim = true;
  request.time_s = time_s;
  return request;
}

void measure(ScriptedState& state) {
  find_ranges(*state);
  find_cells(*state);
  make_rounds(*state);
}

std::map<std::int64_t, int> runs_by_count(const ScriptedState& state, const std::string& variant) {
  std::map<std::int64_t, int> runs;
  for (const mileage::Run& run : state.runs())
    if (run.status == RunStatus::kept && run.series.variant == variant) ++runs[run.count];
  return runs;
}

int runs_within(const std::map<std::int64_t, int>& runs, double from, double to) {
  int sum = 0;
  for (const auto& [count, number] : runs)
    if (static_cast<double>(count) > from && static_cast<double>(count) < to) sum += number;
  return sum;
}

TEST(Rounds, WithoutATimeRunEveryCellOnceEach) {
  ScriptedState state({{"objects", 50}, {"columns", 10}}, scripted::counts({100, 1000}, 4));
  find_ranges(*state);
  const std::size_t placed = state.runs().size();
  make_rounds(*state);
  EXPECT_EQ(state->summary.blocks, 4);
  EXPECT_EQ(state.runs().size() - placed, 4U * 4U);
}

TEST(Rounds, RepeatDisturbedCellsAtTheirEnd) {
  ScriptedState state({{"objects", 50}}, scripted::counts({100, 1000, 10'000}, 4));
  find_ranges(*state);
  std::map<int, int> runs_of_round;
  state.watch.progress = [&](const Progress& progress) {  // A repeated pass has one cell.
    state.yardstick_ns = progress.block == 2 && progress.cells == 3 && progress.count == 1000 ? 250 : 100;
  };
  make_rounds(*state);
  for (const mileage::Run& run : state.runs()) ++runs_of_round[run.block];
  EXPECT_EQ(runs_of_round[1], 3);
  EXPECT_EQ(runs_of_round[2], 4);
}

TEST(Rounds, ACellThatStaysDisturbedIsLeftAfterAFewRuns) {
  ScriptedState state({{"objects", 50}}, scripted::counts({100, 1000, 10'000, 30'000}, 1));
  find_ranges(*state);
  state.watch.progress = [&](const Progress& progress) { state.yardstick_ns = progress.count == 1000 ? 270 : 100; };
  make_rounds(*state);
  EXPECT_EQ(runs_by_count(state, "objects").count(1000), 0U);
  EXPECT_EQ(std::count_if(state.runs().begin(), state.runs().end(),
                          [](const mileage::Run& run) { return run.status == RunStatus::disturbed; }),
            4);
}

TEST(Rounds, PutFiveCountsAroundACapacity) {
  PlanRequest request = scripted::counts({10'000, 100'000, 1'000'000});
  request.aim = true;
  ScriptedState state({{"objects", 50}}, request);  // Capacity 333,333.
  measure(state);
  const auto runs = runs_by_count(state, "objects");
  EXPECT_EQ(std::count_if(runs.begin(), runs.end(),
                          [](const auto& one) { return one.first > 220'000 && one.first < 480'000; }),
            5);
  EXPECT_EQ(runs.count(1'000'000), 0U) << "beyond the capacity a count of the plan says nothing";
  EXPECT_EQ(runs.count(100'000), 1U);
}

TEST(Rounds, TimeGoesToWhatTheAnswersNeed) {
  const auto random = std::make_shared<std::mt19937>(5);
  const auto noisy = [random](std::int64_t ns) {
    return [random, ns, factor = 1.0](std::int64_t count, std::int64_t frame) mutable -> std::int64_t {
      if (frame == 0) factor = std::exp(std::normal_distribution<double>(0, 0.04)(*random));
      return std::llround(factor * static_cast<double>(ns * count));
    };
  };
  ScriptedState state({{"objects", noisy(50)}, {"columns", noisy(10)}}, within(20));
  measure(state);
  EXPECT_GE(state->summary.blocks, rounds_needed);
  const auto objects = runs_by_count(state, "objects"), columns = runs_by_count(state, "columns");
  EXPECT_GE(runs_within(objects, 220'000, 480'000), 8);
  EXPECT_GE(runs_within(columns, 1'100'000, 2'400'000), 8);
  for (const std::int64_t count : {100, 1000, 10'000, 100'000}) EXPECT_GE(objects.count(count), 1U) << count;
  EXPECT_LE(state->recorder.elapsed_s(), 20);
  EXPECT_GT(state->recorder.elapsed_s(), 19);
}

TEST(Rounds, NoCountAroundAFigureIsFarAheadOfTheOthers) {
  ScriptedState state({{"objects", 50}}, within(20));
  measure(state);
  std::map<std::int64_t, int> around;
  for (const auto& [count, runs] : runs_by_count(state, "objects"))
    if (count > 240'000 && count < 460'000) around[count] = runs;
  ASSERT_EQ(around.size(), 5U);
  const auto [fewest, most] = std::minmax_element(around.begin(), around.end(),
                                                  [](const auto& a, const auto& b) { return a.second < b.second; });
  EXPECT_LE(most->second - fewest->second, 2);
  EXPECT_GE(fewest->second, 2);
}

TEST(Rounds, EverySeriesIsMeasuredEvenIfItsRunsAreDear) {
  ScriptedState state({{"objects", 50}, {"pairs", 5'000'000}}, within(10));
  measure(state);
  EXPECT_GE(runs_within(runs_by_count(state, "pairs"), 0, 1e9), 2);
}

TEST(Rounds, ListedCountsComeFirst) {
  PlanRequest request = within(12, {1000, 3000, 40'000, 300'000});
  request.listed = true;
  ScriptedState state({{"objects", 50}, {"columns", 10}}, request);
  measure(state);
  for (const char* variant : {"objects", "columns"}) {
    const auto runs = runs_by_count(state, variant);
    for (const std::int64_t count : request.counts) EXPECT_EQ(runs.count(count), 1U) << variant << " " << count;
  }
}

TEST(Rounds, ReachAThousandFramesForNinetyNinePercent) {
  PlanRequest request = within(60, {10'000, 100'000});
  request.goal = {"capacity", 0, {}, true};
  ScriptedState state({{"objects", 50}}, request);
  measure(state);
  EXPECT_GE(pooled_frames(*state, 0, 333'333), 1000U);
}

// A jump of 1.8x at 350,000 through the budget.
TEST(Rounds, SearchAJumpAtAFigure) {
  PlanRequest request = scripted::counts({50'000, 100'000, 200'000}, 8);
  request.aim = true;
  ScriptedState state(
      {{"objects", [](std::int64_t count, std::int64_t) { return (count < 350'000 ? 40 : 72) * count; }}}, request);
  measure(state);
  const auto runs = runs_by_count(state, "objects");
  const auto above = runs.lower_bound(350'000);
  ASSERT_TRUE(above != runs.begin() && above != runs.end());
  EXPECT_LT(static_cast<double>(above->first) / static_cast<double>(std::prev(above)->first), 1.1);
}

TEST(Rounds, ASpikeMovesNoCounts) {
  const std::vector<mileage::Run>* runs = nullptr;
  int spiked = 0;
  const scripted::FrameTimes with_spike = [&](std::int64_t count, std::int64_t frame) {
    const auto before = runs == nullptr ? 0 : std::count_if(runs->begin(), runs->end(), [&](const mileage::Run& run) {
      return run.status == RunStatus::kept && run.count == count;
    });
    const bool is_spiked = before == 1 && count > 280'000 && count < 300'000;
    spiked += is_spiked && frame == 0;
    return (is_spiked ? 100 : 50) * count;
  };
  PlanRequest request = scripted::counts({10'000, 100'000}, 5);
  request.aim = true;
  ScriptedState state({{"objects", with_spike}}, request);
  runs = &state.runs();
  measure(state);
  EXPECT_GE(spiked, 1);
  const auto by_count = runs_by_count(state, "objects");
  EXPECT_EQ(std::count_if(by_count.begin(), by_count.end(), [](const auto& one) { return one.first > 200'000; }), 5);
}

TEST(Rounds, ProgressTellsFiguresThatGetNarrower) {
  ScriptedState state({{"objects", 50}}, within(10));
  std::vector<double> widths;
  state.watch.progress = [&](const Progress& progress) {
    for (const FigureSoFar& figure : progress.figures) {
      EXPECT_NEAR(figure.place, 333'333, 30'000);
      widths.push_back(figure.half_width);
    }
    EXPECT_LE(state->recorder.elapsed_s() + progress.left_s, 10 + 1e-9);
  };
  measure(state);
  ASSERT_GT(widths.size(), 10U);
  EXPECT_LT(widths.back(), 0.5 * widths.front());
}

TEST(Rounds, EndWithTheTime) {
  PlanRequest request = scripted::counts({100'000, 200'000}, 0);
  request.time_s = 3;
  ScriptedState state({{"objects", 50}}, request);
  measure(state);
  EXPECT_LE(state->recorder.elapsed_s(), 3);
  EXPECT_GE(state->summary.blocks, 2);
}

// Stands still for six of ten seconds in the first round; a run takes at most three tenths of the time.
TEST(Rounds, AfterARoundThatTookFarTooLongTheRestOfTheTimeIsUsed) {
  PlanRequest request = scripted::counts({100'000}, 0);
  request.time_s = 10;
  bool is_still = false;
  ScriptedState* machine = nullptr;
  ScriptedState state({{"objects",
                        [&](std::int64_t count, std::int64_t) {
                          if (is_still) machine->clock.pass(6'000'000'000);
                          is_still = false;
                          return 5 * count;
                        }}},
                      request);
  machine = &state;
  find_ranges(*state);
  is_still = true;
  make_rounds(*state);
  EXPECT_GE(state->summary.blocks, 2);
  EXPECT_GT(state->recorder.elapsed_s(), 9);
}

}  // namespace
}  // namespace mileage
