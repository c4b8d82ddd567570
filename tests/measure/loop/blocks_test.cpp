#include "measure/loop/blocks.h"

#include <map>

#include <gtest/gtest.h>

#include "measure/loop/range_finding.h"
#include "measure/loop/scripted_state.h"

namespace mileage {
namespace {

TEST(Blocks, RunEveryCellOnceEach) {
  scripted::ScriptedState state({{"objects", 50}, {"columns", 10}}, scripted::counts({100, 1000}, 4));
  find_ranges(*state);
  const std::size_t placed = state.runs().size();
  make_blocks(*state);
  EXPECT_EQ(state->summary.blocks, 4);
  EXPECT_EQ(state.runs().size() - placed, 4U * 4U);
}

TEST(Blocks, CellsThatTheYardstickCondemnsAreMeasuredAgain) {
  scripted::ScriptedState state({{"objects", 50}}, scripted::counts({100, 1000, 10'000}, 4));
  find_ranges(*state);
  std::map<int, int> runs_of_block;
  state.watch.progress = [&](const Progress& progress) {
    state.yardstick_ns = progress.block == 2 && !progress.repeating && progress.count == 1000 ? 250 : 100;
  };
  make_blocks(*state);
  for (const mileage::Run& run : state.runs()) ++runs_of_block[run.block];
  EXPECT_EQ(runs_of_block[1], 3);
  EXPECT_EQ(runs_of_block[2], 4);
}

TEST(Blocks, EndWithTheTime) {
  PlanRequest request = scripted::counts({100'000, 200'000}, 0);
  request.time_s = 3;
  scripted::ScriptedState state({{"objects", 50}}, request);
  find_ranges(*state);
  make_blocks(*state);
  EXPECT_LE(state->recorder.elapsed_s(), 3);
  EXPECT_GE(state->summary.blocks, 2);
}

// Stands still for six of ten seconds in the first block; a run takes at most three tenths of the time.
TEST(Blocks, AfterABlockThatTookFarTooLongTheRestOfTheTimeIsUsed) {
  PlanRequest request = scripted::counts({100'000}, 0);
  request.time_s = 10;
  bool is_still = false;
  scripted::ScriptedState* machine = nullptr;
  scripted::ScriptedState state({{"objects",
                                  [&](std::int64_t count, std::int64_t) {
                                    if (is_still) machine->clock.pass(6'000'000'000);
                                    is_still = false;
                                    return 5 * count;
                                  }}},
                                request);
  machine = &state;
  find_ranges(*state);
  is_still = true;
  make_blocks(*state);
  EXPECT_GE(state->summary.blocks, 2);
  EXPECT_GT(state->recorder.elapsed_s(), 9);
}

TEST(Blocks, NoMoreTimeIsForeseenThanThereIs) {
  PlanRequest request = scripted::counts({100'000, 200'000}, 0);
  request.time_s = 0.5;
  scripted::ScriptedState state({{"objects", 50}, {"columns", 40}}, request);
  find_ranges(*state);
  int told = 0;
  state.watch.progress = [&](const Progress& progress) {
    ++told;
    EXPECT_LE(state->recorder.elapsed_s() + progress.left_s, 0.5 + 1e-9);
  };
  make_blocks(*state);
  EXPECT_GT(told, 0);
}

TEST(Blocks, ThePrecisionOfAllBlocksIsKnownInTheEnd) {
  PlanRequest request = scripted::counts({10'000, 20'000, 40'000, 80'000, 160'000, 320'000, 640'000}, 0);
  request.precision = 0.05;
  scripted::ScriptedState state({{"objects", 50}}, request);
  find_ranges(*state);
  make_blocks(*state);
  check_final_precision(*state);
  EXPECT_EQ(state->summary.blocks, state->blocks_looked_at);
  ASSERT_TRUE(state->summary.reached);
  EXPECT_LT(*state->summary.reached, 0.05);
  EXPECT_EQ(state->summary.blocks_lacking, 0);
}

TEST(Blocks, BetweenStagesThePrecisionIsLookedAtOnlyWhereSomebodyIsTold) {
  PlanRequest request = scripted::counts({10'000, 20'000, 40'000, 80'000, 160'000, 320'000, 640'000}, 0);
  request.precision = 0.05;
  for (const bool is_known : {false, true}) {
    scripted::ScriptedState state({{"objects", 50}}, request);
    int looks = 0;
    if (is_known)
      state.watch.progress = [&](const Progress& progress) { looks += progress.block == 4 && progress.reached; };
    find_ranges(*state);
    make_blocks(*state);
    EXPECT_EQ(looks > 0, is_known);
    EXPECT_EQ(state->blocks_looked_at, 5) << "the first stage ends with a look either way";
  }
}

}  // namespace
}  // namespace mileage
