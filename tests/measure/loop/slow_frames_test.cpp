#include "measure/loop/slow_frames.h"

#include <gtest/gtest.h>

#include "measure/loop/aim_counts.h"
#include "measure/loop/blocks.h"
#include "measure/loop/range_finding.h"
#include "measure/loop/scripted_state.h"

namespace mileage {
namespace {

const std::vector<std::int64_t> three_counts{10'000, 20'000, 100'000};

TEST(SlowFrames, MostFramesTakeAsLongAsTypicalOnesUntilFramesAreMeasured) {
  scripted::ScriptedState state({{"objects", 50}, {"columns", 20}}, scripted::counts(three_counts));
  find_ranges(*state);
  EXPECT_EQ(max_frames_of(*state), state->costs);
}

TEST(SlowFrames, MostFramesTakeWhatOneInAHundredPasses) {
  const scripted::FrameTimes with_spikes = [](std::int64_t count, std::int64_t frame) {
    return (frame % 20 == 10 ? 100 : 50) * count;
  };
  scripted::ScriptedState state({{"objects", with_spikes}}, scripted::counts(three_counts));
  find_ranges(*state);
  make_blocks(*state);
  const RoughCosts costs = max_frames_of(*state).at(0);
  EXPECT_NEAR(costs.at(100'000), 10, 0.1);
  EXPECT_NEAR(costs.at(20'000), 2, 0.02);
}

TEST(SlowFrames, WorstFramesAreThoseThatSomethingArrivesIn) {
  PlanRequest request = scripted::counts(three_counts);
  request.arrive = 5000;
  scripted::ScriptedState state({{"objects", 50}}, request);
  find_ranges(*state);
  EXPECT_TRUE(worst_frames_of(*state).at(0).empty()) << "nothing arrived yet";
  make_blocks(*state);
  EXPECT_NEAR(worst_frames_of(*state).at(0).at(100'000), 5 + 5, 0.1) << "1 us for each that arrives";
}

}  // namespace
}  // namespace mileage
