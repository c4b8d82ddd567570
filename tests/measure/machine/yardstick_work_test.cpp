#include "measure/machine/yardstick_work.h"

#include <cmath>

#include <gtest/gtest.h>

#include "measure/machine/clock.h"

namespace mileage {
namespace {

TEST(YardstickWork, TakesSomeTimeAndEnds) {
  SystemClock clock;
  const std::int64_t start = clock.now_ns();
  for (int i = 0; i < 10; ++i) yardstick_work();
  EXPECT_GT(clock.now_ns() - start, 10'000) << "a microsecond each at least: the compiler has left the work in";
}

}  // namespace
}  // namespace mileage
