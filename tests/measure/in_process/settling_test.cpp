#include "measure/in_process/settling.h"

#include <cmath>

#include <gtest/gtest.h>

namespace mileage {
namespace {

TEST(Settling, NeedsAtLeastThreeSamples) {
  EXPECT_FALSE(is_warmed_up({}));
  EXPECT_FALSE(is_warmed_up({10, 10}));
  EXPECT_TRUE(is_warmed_up({10, 10, 10}));
}

TEST(Settling, WaitsWhileTimesFall) {
  EXPECT_FALSE(is_warmed_up({100, 80, 60}));
  EXPECT_FALSE(is_warmed_up({100, 80, 60, 50, 50, 49}));
  EXPECT_TRUE(is_warmed_up({100, 80, 60, 50, 50, 49, 50, 50, 49}));
}

TEST(Settling, ASpikeDoesNotHoldItUp) { EXPECT_TRUE(is_warmed_up({50, 50, 50, 500, 50, 50, 50, 50, 50})); }

TEST(Settling, OneLuckyFrameDoesNotEndIt) { EXPECT_FALSE(is_warmed_up({900, 800, 700, 600, 500, 400, 300, 200, 700})); }

/// What is left of a 50 % excess when frames count as settled.
double excess_left(double frames_of_descent) {
  std::vector<std::int64_t> times;
  while (!is_warmed_up(times)) {
    const double excess = 0.5 * std::exp(-static_cast<double>(times.size()) / frames_of_descent);
    times.push_back(std::llround(1e6 * (1 + excess)));
  }
  return 0.5 * std::exp(-static_cast<double>(times.size()) / frames_of_descent);
}

TEST(Settling, SeesASlowDescentAsWellAsASteepOne) {
  for (const double frames : {1.0, 3.0, 8.0, 13.0}) EXPECT_LT(excess_left(frames), 0.015) << frames;
}

TEST(Settling, EndsAtTheCapForTimesThatNeverSettle) {
  std::vector<std::int64_t> falling;
  for (std::size_t i = 0; i < max_warmup_samples; ++i)
    falling.push_back(std::llround(1e9 * std::pow(0.9, static_cast<double>(i))));
  EXPECT_TRUE(is_warmed_up(falling));
  falling.pop_back();
  EXPECT_FALSE(is_warmed_up(falling));
}

}  // namespace
}  // namespace mileage
