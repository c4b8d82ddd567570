#include "measure/recordings/recorded_run.h"

#include <gtest/gtest.h>

#include "support/scripted.h"

namespace mileage {
namespace {

/// Slightly uneven, so that nothing piles up.
TEST(RecordedRun, WhatWasAskedForIsLeftEvenWhereFramesDoNotSettle) {
  std::vector<std::int64_t> falling;
  for (int i = 0; i < 30; ++i) falling.push_back(30'000'000 - 900'000 * i);
  EXPECT_EQ(frames_until_warm(falling), 30U);
  EXPECT_EQ(warmup_of(falling, 10), 20U);
  EXPECT_EQ(warmup_of(falling, 50), 0U);
  EXPECT_EQ(warmup_of(scripted::uneven_ns(5, 30), 10), frames_until_warm(scripted::uneven_ns(5, 30)));
}

TEST(RecordedRun, TellsOfTheYardstickThatStoodBesideItsFrames) {
  Recording recording;
  recording.variant = "plain";
  recording.build = "new";
  recording.frame_ns.assign(8, 20'000);
  recording.yardstick_us = {99, 0, 10, 0, 12, 10, 12, 0};
  const mileage::Run run = run_of(recording, 2);
  ASSERT_TRUE(run.yardstick);
  EXPECT_EQ(run.yardstick->version, recorded_yardstick_version);
  EXPECT_EQ(run.yardstick->probes, 4);
  EXPECT_NEAR(run.yardstick->one_half_ns, 10'000, 1);
  EXPECT_NEAR(run.yardstick->other_half_ns, 12'000, 1);
  EXPECT_EQ(run.yardstick->program, "plain new");
  recording.yardstick_us = {99, 0, 10, 0, 0, 0, 0, 0};
  EXPECT_FALSE(run_of(recording, 2).yardstick) << "one probe has no second half";
}

TEST(RecordedRun, TellsWhatItsFramesWaitedForACore) {
  Recording recording;
  recording.frame_ns.assign(4, 5'000'000);
  recording.waited_us = {900, 0, 3000.5, 0};
  EXPECT_EQ(run_of(recording, 1).waited_ns, (std::vector<std::int64_t>{0, 3'000'500, 0}));
  EXPECT_TRUE(run_of(recording, 3).waited_ns.empty()) << "none of those that count waited";
}

TEST(RecordedRun, IsCutToWhatFollowsAnArrival) {
  Recording recording;
  recording.frame_ns = {5, 5, 9, 6, 6};
  recording.alive = {70, 70, 100, 100, 100};
  recording.counters["updates"] = {70, 70, 100, 100, 100};
  recording.yardstick_us = {1, 0, 2, 0, 3};
  Recording none = recording;
  EXPECT_EQ(cut_to_arrival(recording), 30);
  EXPECT_EQ(recording.frame_ns, (std::vector<std::int64_t>{9, 6, 6}));
  EXPECT_EQ(recording.counters["updates"], (std::vector<double>{100, 100, 100}));
  EXPECT_EQ(recording.yardstick_us, (std::vector<double>{2, 0, 3}));
  none.alive.assign(5, 100);
  EXPECT_EQ(cut_to_arrival(none), 0);
  EXPECT_EQ(none.frame_ns.size(), 5U);
}

TEST(RecordedRun, SetsItsWarmupApartAndSumsTheRest) {
  Recording recording;
  recording.count = 5;
  recording.frame_ns = {9, 3, 3};
  recording.phases_ms["drift"] = {9, 1, 2};
  recording.counters["updates"] = {5, 5, 5};
  recording.alive = {5, 5, 4};
  const mileage::Run run = run_of(recording, 1);
  EXPECT_EQ(run.warmup_ns, (std::vector<std::int64_t>{9}));
  EXPECT_EQ(run.samples_ns, (std::vector<std::int64_t>{3, 3}));
  EXPECT_EQ(run.phases_ms.at("drift"), 3);
  EXPECT_EQ(run.counters.at("updates"), 10);
  EXPECT_EQ(run.alive, 4);
  EXPECT_FALSE(run.setup_ms);
}

}  // namespace
}  // namespace mileage
