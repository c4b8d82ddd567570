#include "measure/machine/yardstick.h"

#include <cmath>

#include <gtest/gtest.h>

#include "support/scripted.h"

namespace mileage {
namespace {

TEST(Yardstick, AProbeIsTimedWithItsClock) {
  scripted::VirtualClock clock(1000);  // a reading costs a microsecond, the work itself nothing
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
  const auto reading = probes.reading();
  ASSERT_TRUE(reading);
  EXPECT_EQ(reading->version, yardstick_version);
  EXPECT_EQ(reading->probes, 21);
  EXPECT_NEAR(reading->one_half_ns, 200, 1e-9) << "geometric";
  EXPECT_NEAR(reading->other_half_ns, 95, 0.1);
  EXPECT_EQ(reading->fast_ns, 92);
  EXPECT_NEAR(reading->level_ns(), std::sqrt(reading->one_half_ns * reading->other_half_ns), 1e-9);
}

TEST(Probes, OfOneHalfAloneTellNothing) {
  Probes probes;
  EXPECT_FALSE(probes.reading());
  probes.add(Probes::one, 100);
  EXPECT_FALSE(probes.reading());
}

}  // namespace
}  // namespace mileage
