#include "measure/loop/placing.h"

#include <gtest/gtest.h>

#include "measure/loop/scripted_state.h"

namespace mileage {
namespace {

TEST(Placing, GoesUpwardsUntilASeriesIsFarOverTheBudget) {
  // At 60 Hz: objects are within it at 100k (5 ms), at 200k (10 ms), over it at 400k, far over it at 800k.
  scripted::ScriptedState state({{"objects", 50}}, scripted::counts({100'000, 200'000, 400'000, 800'000, 1'600'000}));
  place_series(*state);
  std::vector<std::int64_t> ladder;
  for (const Cell& cell : state->ladder) ladder.push_back(cell.count);
  EXPECT_EQ(ladder, (std::vector<std::int64_t>{100'000, 200'000, 400'000, 800'000}))
      << "the first that is far over it stays";
  EXPECT_DOUBLE_EQ(state->costs[0].at(200'000), 10);
  EXPECT_EQ(state->cells.size(), state->ladder.size());
  for (const Visit& visit : state.visits()) EXPECT_EQ(visit.status, VisitStatus::placing);
}

TEST(Placing, LooksTwiceWhereItLooksOverTheBudget) {
  scripted::ScriptedState state({{"objects", 50}}, scripted::counts({100'000, 800'000}));
  Progress progress;
  place_cell(*state, 0, 100'000, progress);
  EXPECT_EQ(state.visits().size(), 1U);
  const auto placed = place_cell(*state, 0, 800'000, progress);
  EXPECT_EQ(state.visits().size(), 3U);
  ASSERT_TRUE(placed);
  EXPECT_DOUBLE_EQ(placed->frame_ms, 40);
  EXPECT_LT(placed->cell.least_frames, state.head.plan.heavy_frames) << "fewer frames where they are dear";
}

TEST(Placing, APersonRecordsEveryCount) {
  scripted::ScriptedState state({{"objects", 50}, {"columns", 10}}, scripted::counts({100, 1000, 10'000'000}));
  take_all_cells(*state);
  EXPECT_EQ(state->cells.size(), 6U);
  EXPECT_TRUE(state.visits().empty());
}

}  // namespace
}  // namespace mileage
