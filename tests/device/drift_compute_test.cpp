#include "device/drift_compute.h"

#include <gmock/gmock.h>

#include "festival/drift/drift_variants.h"
#include "support/device_here.h"
#include "support/default_set_up.h"
#include "support/unmarked.h"

namespace mileage::device {
namespace {

struct Case {
  const char* name;
  std::unique_ptr<Variant> (*make)(const SetUp&);
  std::int64_t count;
  std::map<std::string, double> knobs;
};
void PrintTo(const Case& one, std::ostream* out) { *out << one.name << " " << one.count; }

class DriftCompute : public testing::TestWithParam<Case> {};

TEST_P(DriftCompute, DoesWhatTheProcessorDoes) {
  SKIP_WITHOUT_DEVICE();
  mileage::SetUp set_up = drift_set_up(GetParam().count, GetParam().knobs);
  set_up.knobs.set("in-flight", 1.0);
  const auto expected = festival::make_drift_columns(set_up);
  const auto found = GetParam().make(set_up);
  testing_support::run_frames(*expected, 60);
  testing_support::run_frames(*found, 60);
  EXPECT_EQ(found->alive(), GetParam().count);
  for (const Disagreement& one : disagreements(expected->outcome(), found->outcome()))
    ADD_FAILURE() << one.quantity << ": " << one.found << " instead of " << one.expected;
}

INSTANTIATE_TEST_SUITE_P(
    AllCopies, DriftCompute,
    testing::Values(Case{"compute", make_drift_compute, 1000, {}},
                    Case{"compute", make_drift_compute, 1, {{"work", 3}}},
                    Case{"compute", make_drift_compute, 129, {{"work", 3}}},
                    Case{"compute", make_drift_compute, 300, {{"kinds", 8}, {"uneven", 0.3}}},
                    Case{"compute", make_drift_compute, 300, {{"touched", 0.2}, {"rest", 100}}},
                    Case{"readback", make_drift_compute_readback, 500, {}},
                    Case{"readback", make_drift_compute_readback, 500, {{"touched", 0.2}}},
                    Case{"upload", make_drift_compute_upload, 500, {{"work", 2}}},
                    Case{"upload", make_drift_compute_upload, 500, {{"touched", 0.2}, {"kinds", 3}}}));

TEST(DriftComputeFrames, ThreeUnderWayComeToTheSame) {
  SKIP_WITHOUT_DEVICE();
  mileage::SetUp set_up = drift_set_up(300);
  set_up.knobs.set("in-flight", 3.0);
  const auto expected = festival::make_drift_columns(set_up);
  const auto found = make_drift_compute(set_up);
  testing_support::run_frames(*expected, 20);
  testing_support::run_frames(*found, 20);
  EXPECT_TRUE(disagreements(expected->outcome(), found->outcome()).empty());
}

TEST(DriftComputeFrames, CountsWhatGoesToAndFro) {
  SKIP_WITHOUT_DEVICE();
  mileage::SetUp set_up = drift_set_up(1000);
  set_up.knobs.set("in-flight", 1.0);
  EXPECT_EQ(testing_support::counters_of_a_frame(*make_drift_compute(set_up)).at("bytes uploaded"), 16);
  EXPECT_EQ(testing_support::counters_of_a_frame(*make_drift_compute(set_up)).at("updates"), 1000);
  EXPECT_EQ(testing_support::counters_of_a_frame(*make_drift_compute_readback(set_up)).at("bytes read back"), 40'000);
  EXPECT_EQ(testing_support::counters_of_a_frame(*make_drift_compute_upload(set_up)).at("bytes uploaded"), 40'016);
}

}  // namespace
}  // namespace mileage::device
