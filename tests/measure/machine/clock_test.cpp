#include "measure/machine/clock.h"

#include <gtest/gtest.h>

#include "support/scripted.h"

namespace mileage {
namespace {

TEST(SystemClock, NeverGoesBackwardsAndPausesAtLeastAsLongAsAsked) {
  SystemClock clock;
  std::int64_t last = clock.now_ns();
  for (int i = 0; i < 1000; ++i) {
    const std::int64_t now = clock.now_ns();
    EXPECT_GE(now, last);
    last = now;
  }
  clock.pause_ns(2'000'000);
  EXPECT_GE(clock.now_ns() - last, 2'000'000);
}

TEST(Clock, ItsReadingsCostWhatTheyCost) {
  scripted::VirtualClock clock(25);
  EXPECT_NEAR(reading_cost_ns(clock), 25, 1);
}

}  // namespace
}  // namespace mileage
