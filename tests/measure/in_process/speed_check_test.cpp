#include "measure/in_process/speed_check.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

namespace mileage {
namespace {

/// 1 us for a million entities.
mileage::Run checked_run(double updates) {
  mileage::Run run;
  run.count = 1'000'000;
  run.samples_ns = {1000};
  run.counters["updates"] = updates;
  return run;
}

TEST(SpeedCheck, NoMachineTouchesABillionInAMicrosecond) {
  const auto reason = too_fast_to_be_true(checked_run(1e9), {});
  ASSERT_TRUE(reason);
  EXPECT_THAT(*reason, testing::HasSubstr("too fast to be true: 1e+09 entities a frame in 0.001 ms, where reading one "
                                          "byte of each takes"));
  EXPECT_FALSE(too_fast_to_be_true(checked_run(1000), {}));
}

TEST(SpeedCheck, WithoutACounterTheEntitiesCount) {
  mileage::Run silent = checked_run(0);
  silent.counters.clear();
  EXPECT_TRUE(too_fast_to_be_true(silent, {})) << "a million in a microsecond";
  silent.count = 1000;
  EXPECT_FALSE(too_fast_to_be_true(silent, {}));
}

TEST(SpeedCheck, AVariantMaySkipAndADeviceTouchesMemoryOfItsOwn) {
  VariantFacts facts;
  facts.may_skip = true;
  EXPECT_FALSE(too_fast_to_be_true(checked_run(1e9), facts));
  facts = {};
  facts.device = "a device";
  EXPECT_FALSE(too_fast_to_be_true(checked_run(1e9), facts));
  facts.software_device = true;
  EXPECT_TRUE(too_fast_to_be_true(checked_run(1e9), facts));
}

}  // namespace
}  // namespace mileage
