#include "measure/machine/yardstick.h"

#include <gtest/gtest.h>

#include "support/scripted.h"

namespace mileage {
namespace {

TEST(Yardstick, TimesBothPiecesOfWorkWithItsClock) {
  scripted::VirtualClock clock(1000);  // a reading costs a microsecond, the work itself nothing
  MachineYardstick yardstick(clock);
  const YardstickTimes times = yardstick.take();
  EXPECT_EQ(times.arithmetic_ns, 1000);
  EXPECT_EQ(times.memory_ns, 1000);
  EXPECT_EQ(clock.readings(), 2 * (5 + 3)) << "the median of five and of three";
}

TEST(Yardstick, TheLevelOfAReadingIsItsSlowerArithmetic) {
  EXPECT_EQ((YardstickReading{2, {100, 9}, {130, 1}}.level_ns()), 130);
  EXPECT_EQ((YardstickReading{2, {140, 9}, {130, 1}}.level_ns()), 140);
}

}  // namespace
}  // namespace mileage
