#include "measure/loop/slow_frames.h"

#include <gtest/gtest.h>

#include "measure/loop/range_finding.h"
#include "measure/loop/rounds.h"
#include "measure/loop/scripted_state.h"

namespace mileage {
namespace {

const std::vector<std::int64_t> three_counts{10'000, 20'000, 100'000};

TEST(SlowFrames, AreTypicalOnesUntilFramesAreMeasured) {
  scripted::ScriptedState state({{"objects", 50}}, scripted::counts(three_counts));
  find_ranges(*state);
  EXPECT_EQ(slow_ratio(*state, 0, 20'000, FramesOf::max), 1);
  EXPECT_EQ(slow_ratio(*state, 0, 20'000, FramesOf::worst), 1);
  EXPECT_EQ(pooled_frames(*state, 0, 20'000), 0U);
}

TEST(SlowFrames, OneInAHundredTakesLonger) {
  const scripted::FrameTimes with_spikes = [](std::int64_t count, std::int64_t frame) {
    return (frame % 20 == 10 ? 100 : 50) * count;
  };
  PlanRequest request = scripted::counts(three_counts);
  request.min_frames = 20;
  scripted::ScriptedState state({{"objects", with_spikes}}, request);
  find_ranges(*state);
  make_rounds(*state);
  EXPECT_NEAR(slow_ratio(*state, 0, 100'000, FramesOf::max), 2, 0.02);
  EXPECT_EQ(slow_ratio(*state, 0, 100'000, FramesOf::typical), 1);
  EXPECT_GE(pooled_frames(*state, 0, 100'000), 3U * 10U);
}

TEST(SlowFrames, TheWorstIsTheOneInWhichSomethingArrives) {
  PlanRequest request = scripted::counts(three_counts);
  request.arrive = 5000;
  scripted::ScriptedState state({{"objects", 50}}, request);
  find_ranges(*state);
  make_rounds(*state);
  EXPECT_NEAR(slow_ratio(*state, 0, 100'000, FramesOf::worst), 2, 0.02) << "1 us for each that arrives";
}

}  // namespace
}  // namespace mileage
