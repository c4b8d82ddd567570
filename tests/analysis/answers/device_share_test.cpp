#include "analysis/answers/device_share.h"

#include <gtest/gtest.h>

namespace mileage {
namespace {

VariantFacts on_card() {
  VariantFacts facts;
  facts.device = "a card, 1.0";
  return facts;
}

CellDetail frame_of(double frame_ms, double wait_ms, std::optional<double> timer_ms = {}) {
  CellDetail detail;
  detail.x = 1000;
  detail.frame_ms = frame_ms;
  detail.phases_ms = {{"submit", frame_ms - wait_ms}, {wait_phase, wait_ms}};
  if (timer_ms) detail.counters[device_time_counter] = *timer_ms;
  return detail;
}

TEST(DeviceShare, TheLargerOfBothRunsOutFirst) {
  const auto waits = device_share(frame_of(10, 8), on_card());
  ASSERT_TRUE(waits);
  EXPECT_DOUBLE_EQ(waits->processor_ms, 2);
  EXPECT_DOUBLE_EQ(waits->device_ms, 8);
  EXPECT_TRUE(waits->device_runs_out_first());
  EXPECT_FALSE(device_share(frame_of(10, 3), on_card())->device_runs_out_first());
}

TEST(DeviceShare, TheTimerIsBelievedWhereItTellsHalfToAllOfTheWait) {
  const auto by_timer = device_share(frame_of(10, 8, 4.1), on_card());
  EXPECT_TRUE(by_timer->by_timer);
  EXPECT_DOUBLE_EQ(by_timer->device_ms, 4.1);
  EXPECT_TRUE(device_share(frame_of(10, 8, 8.3), on_card())->by_timer);
  for (const double odd_ms : {0.2, 3.9, 8.5, 80.0}) {
    const auto by_fence = device_share(frame_of(10, 8, odd_ms), on_card());
    EXPECT_FALSE(by_fence->by_timer) << odd_ms;
    EXPECT_DOUBLE_EQ(by_fence->device_ms, 8) << odd_ms;
  }
}

TEST(DeviceShare, ASoftwareDeviceSharesTheCores) {
  VariantFacts facts = on_card();
  facts.software_device = true;
  EXPECT_TRUE(device_share(frame_of(10, 8), facts)->shares_cores);
  EXPECT_FALSE(device_share(frame_of(10, 8), on_card())->shares_cores);
}

TEST(DeviceShare, ThereIsNoneWithoutADeviceOrAWait) {
  EXPECT_FALSE(device_share(frame_of(10, 8), VariantFacts{}));
  CellDetail unmarked;
  unmarked.frame_ms = 3;
  EXPECT_FALSE(device_share(unmarked, on_card()));
}

}  // namespace
}  // namespace mileage
