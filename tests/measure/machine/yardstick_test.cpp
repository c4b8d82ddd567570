#include "measure/machine/yardstick.h"

#include <cmath>
#include <random>

#include <gtest/gtest.h>

#include "support/scripted.h"

namespace mileage {
namespace {

TEST(Yardstick, AProbeIsTimedWithItsClock) {
  scripted::VirtualClock clock(1000);  // Readings take 1 us, the work nothing.
  MachineYardstick yardstick(clock);
  EXPECT_EQ(yardstick.probe_ns(), 1000);
  EXPECT_EQ(clock.readings(), 2);
}

TEST(Probes, AreKeptAsMeansOfBothHalvesAndTheirFastestTenth) {
  Probes probes;
  for (int i = 0; i < 5; ++i) probes.add(Probes::one, 100);
  for (int i = 0; i < 5; ++i) probes.add(Probes::one, 400);
  for (int i = 0; i < 11; ++i) probes.add(Probes::other, 90 + i);
  EXPECT_EQ(probes.size(), 21U);
  EXPECT_EQ(probes.total_ns(), 2500 + 11 * 95);
  const auto reading = probes.reading(ProbedBy::work, 0);
  ASSERT_TRUE(reading);
  EXPECT_EQ(reading->version, yardstick_version);
  EXPECT_EQ(reading->probes, 21);
  EXPECT_NEAR(reading->one_half_ns, 200, 1e-9) << "geometric";
  EXPECT_NEAR(reading->other_half_ns, 95, 0.1);
  EXPECT_EQ(reading->fast_ns, 92);
  EXPECT_NEAR(*reading->geometric_ns, reading->mean_ns(), 1e-9);
  EXPECT_GT(probes.reading(ProbedBy::work, 1e9)->log_mean_excess(), 0.05) << "long frames add up 100 and 400";
  EXPECT_EQ(reading->moments, 2) << "probes that follow each other in a half";
  EXPECT_EQ(probes.reading(ProbedBy::time, 0)->moments, 0) << "none between frames";
  EXPECT_NEAR(reading->mean_ns(), std::sqrt(reading->one_half_ns * reading->other_half_ns), 1e-9);
}

// 2x slower for a fifth of the work: a third of the time of frames that slow by 1.464x.
TEST(Probes, TellOfLongAndShortFramesWithOneSlope) {
  const double slope = 0.55;
  const double slower = std::pow(2, slope);
  const auto slowdown = [](int slow, int fast, ProbedBy by, double frame_ns) {
    Probes probes;
    for (int i = 0; i < slow + fast; ++i)
      for (const auto half : {Probes::one, Probes::other}) probes.add(half, i < slow ? 200 : 100);
    return std::log(probes.reading(by, frame_ns)->mean_ns() / 100);
  };
  const double short_frames = 0.15 / 0.9 * slope * std::log(2);  // A fifth is slower, 5 % are trimmed.
  const double long_frames = std::log(0.8 + 0.2 * slower);       // Slower for a fifth of its work.
  EXPECT_NEAR(slope * slowdown(200, 800, ProbedBy::work, 0), short_frames, 1e-6);
  EXPECT_NEAR(slope * slowdown(20'000, 80'000, ProbedBy::work, 1e12), long_frames, 1e-6);
  const int slow = static_cast<int>(std::lround(20'000 * slower));
  EXPECT_NEAR(slope * slowdown(slow, 80'000, ProbedBy::time, 0), short_frames, 1e-5);
  EXPECT_NEAR(slope * slowdown(slow, 80'000, ProbedBy::time, 1e12), long_frames, 1e-5);
  const double between = slowdown(200, 800, ProbedBy::work, 1e6);
  EXPECT_GT(between, slowdown(200, 800, ProbedBy::work, 1e4));
  EXPECT_LT(between, slowdown(200, 800, ProbedBy::work, 1e8));
}

// Nine frames with 14 probes each.
TEST(Probes, OfFewMomentsTellAsMuchOnAverageAsOfMany) {
  const double slope = 0.55;
  std::mt19937_64 random(5);
  std::bernoulli_distribution is_slow(0.2);
  double sum = 0;
  constexpr int runs = 20'000;
  for (int run = 0; run < runs; ++run) {
    Probes probes;
    for (int moment = 0; moment < 9; ++moment) {
      const double ns = is_slow(random) ? 190 : 100;
      for (int i = 0; i < 14; ++i) probes.add(moment % 2 == 0 ? Probes::one : Probes::other, ns);
    }
    sum += slope * std::log(probes.reading(ProbedBy::work, 1e9)->mean_ns() / 100);
  }
  EXPECT_NEAR(sum / runs, std::log(0.8 + 0.2 * std::pow(1.9, slope)), 0.0008);
}

TEST(Probes, OfOneHalfAloneTellNothing) {
  Probes probes;
  EXPECT_FALSE(probes.reading(ProbedBy::work, 0));
  probes.add(Probes::one, 100);
  EXPECT_FALSE(probes.reading(ProbedBy::work, 0));
}

}  // namespace
}  // namespace mileage
