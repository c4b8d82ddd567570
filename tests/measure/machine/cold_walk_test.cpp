#include "measure/machine/cold_walk.h"

#include <gtest/gtest.h>

#include "support/scripted.h"

namespace mileage {
namespace {

TEST(ColdWalk, KeepsWhatItTook) {
  scripted::VirtualClock clock(10);
  ColdWalk walk(1 << 20, clock);
  EXPECT_EQ(walk.wall_ns(), 0);
  walk.walk();
  walk.walk();
  EXPECT_EQ(walk.wall_ns(), 2 * 10);
  EXPECT_GT(walk.spent().thread_ns, 0);
  EXPECT_GE(walk.spent().processor_ns, walk.spent().thread_ns / 2);
}

TEST(ColdWalk, WalksOneLineAtLeast) {
  scripted::VirtualClock clock;
  ColdWalk walk(0, clock);
  walk.walk();
  EXPECT_EQ(walk.wall_ns(), 0);
}

}  // namespace
}  // namespace mileage
