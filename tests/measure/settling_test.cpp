#include "measure/settling.h"

#include <gtest/gtest.h>

namespace mileage {
namespace {

TEST(Settling, NeedsAtLeastThreeSamples) {
  EXPECT_FALSE(has_settled({}));
  EXPECT_FALSE(has_settled({10, 10}));
  EXPECT_TRUE(has_settled({10, 10, 10}));
}

TEST(Settling, WaitsWhileTimesFall) {
  EXPECT_FALSE(has_settled({100, 80, 60}));
  EXPECT_FALSE(has_settled({100, 80, 60, 50}));
  EXPECT_TRUE(has_settled({100, 80, 60, 50, 50, 49}));
}

TEST(Settling, ASpikeDoesNotHoldItUp) { EXPECT_TRUE(has_settled({50, 500, 50})); }

TEST(Settling, EndsAtTheCapForTimesThatNeverSettle) {
  std::vector<std::int64_t> falling;
  for (std::size_t i = 0; i < most_warmup_samples; ++i) falling.push_back(1'000'000 >> i);
  EXPECT_TRUE(has_settled(falling));
  falling.pop_back();
  EXPECT_FALSE(has_settled(falling));
}

}  // namespace
}  // namespace mileage
