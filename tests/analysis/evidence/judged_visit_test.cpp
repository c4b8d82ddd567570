#include "analysis/evidence/judged_visit.h"

#include <gtest/gtest.h>

namespace mileage {
namespace {

TEST(JudgedVisit, ATypicalFrameIsTheMedianSampleOverItsFrames) {
  Visit visit;
  visit.samples_ns = {9'000'000, 2'000'000, 4'000'000};
  EXPECT_DOUBLE_EQ(typical_frame_ms(visit), 4);
  visit.frames_per_sample = 8;
  EXPECT_DOUBLE_EQ(typical_frame_ms(visit), 0.5);
  visit.samples_ns.push_back(6'000'000);
  EXPECT_DOUBLE_EQ(typical_frame_ms(visit), 0.625) << "the mean of the two in the middle";
}

}  // namespace
}  // namespace mileage
