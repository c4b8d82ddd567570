#include "measure/runners/speed_check.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

namespace mileage {
namespace {

/// A frame of a microsecond that claims to have touched so many.
Visit visit_of(double updates) {
  Visit visit;
  visit.samples_ns = {1000};
  visit.counters["updates"] = updates;
  return visit;
}

TEST(SpeedCheck, NoMachineTouchesABillionInAMicrosecond) {
  const auto reason = too_fast_to_be_true(visit_of(1e9), {});
  ASSERT_TRUE(reason);
  EXPECT_THAT(*reason, testing::HasSubstr("too fast to be true: 1e+09 updates are claimed in 0.001 ms"));
  EXPECT_FALSE(too_fast_to_be_true(visit_of(1000), {}));
}

TEST(SpeedCheck, AVariantMaySkipAndAVisitMayClaimNothing) {
  VariantFacts facts;
  facts.may_skip = true;
  EXPECT_FALSE(too_fast_to_be_true(visit_of(1e9), facts));
  Visit silent = visit_of(1e9);
  silent.counters.clear();
  EXPECT_FALSE(too_fast_to_be_true(silent, {}));
}

}  // namespace
}  // namespace mileage
