#include "device/drift_compute.h"

#include <gmock/gmock.h>

#include "festival/drift/drift_variants.h"
#include "support/device_here.h"
#include "support/unmarked.h"

namespace mileage::device {
namespace {

struct Case {
  const char* name;
  std::unique_ptr<Variant> (*make)(const SetUp&);
  std::int64_t count;
  double work;
};
void PrintTo(const Case& one, std::ostream* out) { *out << one.name << " " << one.count; }

class DriftCompute : public testing::TestWithParam<Case> {};

TEST_P(DriftCompute, DoesWhatTheProcessorDoes) {
  SKIP_WITHOUT_DEVICE();
  mileage::SetUp set_up{GetParam().count, 11, 1.0 / 60, {}};
  set_up.knobs.set("work", GetParam().work);
  set_up.knobs.set("in-flight", 1.0);
  const auto expected = festival::make_drift_columns(set_up);
  const auto found = GetParam().make(set_up);
  testing_support::run_frames(*expected, 60);
  testing_support::run_frames(*found, 60);
  EXPECT_EQ(found->alive(), GetParam().count);
  for (const Disagreement& one : disagreements(expected->outcome(), found->outcome()))
    ADD_FAILURE() << one.quantity << ": " << one.found << " instead of " << one.expected;
}

INSTANTIATE_TEST_SUITE_P(AllCopies, DriftCompute,
                         testing::Values(Case{"compute", make_drift_compute, 1000, 1},
                                         Case{"compute", make_drift_compute, 1, 3},
                                         Case{"compute", make_drift_compute, 129, 3},
                                         Case{"readback", make_drift_compute_readback, 500, 1},
                                         Case{"upload", make_drift_compute_upload, 500, 2}));

TEST(DriftComputeFrames, ThreeUnderWayComeToTheSame) {
  SKIP_WITHOUT_DEVICE();
  mileage::SetUp set_up{300, 5, 1.0 / 60, {}};
  set_up.knobs.set("work", 1.0);
  set_up.knobs.set("in-flight", 3.0);
  const auto expected = festival::make_drift_columns(set_up);
  const auto found = make_drift_compute(set_up);
  testing_support::run_frames(*expected, 20);
  testing_support::run_frames(*found, 20);
  EXPECT_TRUE(disagreements(expected->outcome(), found->outcome()).empty());
}

TEST(DriftComputeFrames, CountsWhatGoesToAndFro) {
  SKIP_WITHOUT_DEVICE();
  mileage::SetUp set_up{1000, 5, 1.0 / 60, {}};
  set_up.knobs.set("work", 1.0);
  set_up.knobs.set("in-flight", 1.0);
  EXPECT_EQ(testing_support::counters_of_a_frame(*make_drift_compute(set_up)).at("bytes uploaded"), 16);
  EXPECT_EQ(testing_support::counters_of_a_frame(*make_drift_compute(set_up)).at("updates"), 1000);
  EXPECT_EQ(testing_support::counters_of_a_frame(*make_drift_compute_readback(set_up)).at("bytes read back"), 40'000);
  EXPECT_EQ(testing_support::counters_of_a_frame(*make_drift_compute_upload(set_up)).at("bytes uploaded"), 40'016);
}

}  // namespace
}  // namespace mileage::device
