#include "measure/machine/touch_speed.h"

#include <gtest/gtest.h>

namespace mileage {
namespace {

TEST(TouchSpeed, GrowsWithTheBytesAndBeyondWhatIsPassedInProportion) {
  EXPECT_GE(touch_ns(1), 0);
  const double million = touch_ns(1'000'000);
  EXPECT_GT(million, 1'000'000 / 512.0) << "512 bytes a nanosecond are beyond any core";
  EXPECT_GT(touch_ns(1'000'000'000'000), 1000 * million);
}

}  // namespace
}  // namespace mileage
