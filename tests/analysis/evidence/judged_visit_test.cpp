#include "analysis/evidence/judged_visit.h"

#include <cmath>

#include <gtest/gtest.h>

namespace mileage {
namespace {

TEST(JudgedVisit, ATypicalFrameIsTheMeanOfLogsWithoutTheEnds) {
  Visit visit;
  visit.samples_ns = {9'000'000, 2'000'000, 4'000'000};
  EXPECT_NEAR(typical_frame_ms(visit), 4, 1e-12) << "the shortest and the longest are cut off";
  visit.frames_per_sample = 8;
  EXPECT_NEAR(typical_frame_ms(visit), 0.5, 1e-12);
  visit.samples_ns.push_back(8'000'000);
  EXPECT_NEAR(typical_frame_ms(visit), std::sqrt(32.0) / 8, 1e-12);
  visit.samples_ns = {1'000'000, 4'000'000};
  EXPECT_NEAR(typical_frame_ms(visit), 0.25, 1e-12) << "of two, none is cut off";
}

TEST(JudgedVisit, AFewLongFramesMoveNothingAndTwoSpeedsAreWeighed) {
  Visit visit;
  visit.samples_ns.assign(96, 1'000'000);
  visit.samples_ns.insert(visit.samples_ns.begin() + 50, 4, 500'000'000);
  EXPECT_NEAR(typical_frame_ms(visit), 1, 1e-12);
  visit.samples_ns.assign(60, 1'000'000);
  visit.samples_ns.insert(visit.samples_ns.begin() + 20, 40, 2'000'000);
  EXPECT_NEAR(typical_frame_ms(visit), std::exp2(35.0 / 90), 1e-12) << "a median would say 1";
}

TEST(JudgedVisit, WaitingForACoreIsNoCost) {
  Visit visit;
  visit.samples_ns.assign(40, 2'000'000);
  visit.waited_ns.assign(40, 0);
  for (std::size_t i = 0; i < 40; i += 2) visit.samples_ns[i] += visit.waited_ns[i] = 4'000'000;
  EXPECT_NEAR(typical_frame_ms(visit), 2, 1e-12);
  EXPECT_EQ(own_ns(visit, 0), 2'000'000);
  visit.waited_ns.assign(40, 50'000'000);
  EXPECT_EQ(own_ns(visit, 0), 6'000'000) << "the core was taken away beside the sample and not in it";
  visit.waited_ns.assign(3, 1);
  EXPECT_GT(typical_frame_ms(visit), 2) << "of other samples";
}

}  // namespace
}  // namespace mileage
