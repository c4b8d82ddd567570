#include "measure/machine/pass_speed.h"

#include <gtest/gtest.h>

#include "measure/machine/machine_facts.h"

namespace mileage {
namespace {

TEST(PassSpeed, IsToldForOneCoreAndForAll) {
  const Machine machine = machine_facts();
  const auto speeds = pass_speeds(machine);
  ASSERT_EQ(speeds.count("1"), 1U);
  EXPECT_EQ(speeds.size(), machine.cores > 1 ? 2U : 1U);
  for (const auto& [cores, speed] : speeds) {
    EXPECT_GT(speed, 1e7) << cores;
    EXPECT_LT(speed, 1e13) << cores;
  }
}

}  // namespace
}  // namespace mileage
