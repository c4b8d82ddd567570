#include "analysis/evidence/judged_run.h"

#include <cmath>

#include <gtest/gtest.h>

namespace mileage {
namespace {

TEST(JudgedRun, ATypicalFrameIsTheMeanOfLogsWithoutTheEnds) {
  mileage::Run run;
  run.samples_ns = {9'000'000, 2'000'000, 4'000'000};
  EXPECT_NEAR(typical_frame_ms(run), 4, 1e-12) << "the shortest and the longest are cut off";
  run.frames_per_sample = 8;
  EXPECT_NEAR(typical_frame_ms(run), 0.5, 1e-12);
  run.samples_ns.push_back(8'000'000);
  EXPECT_NEAR(typical_frame_ms(run), std::sqrt(32.0) / 8, 1e-12);
  run.samples_ns = {1'000'000, 4'000'000};
  EXPECT_NEAR(typical_frame_ms(run), 0.25, 1e-12) << "of two, none is cut off";
}

TEST(JudgedRun, AFewLongFramesMoveNothingAndTwoSpeedsAreWeighed) {
  mileage::Run run;
  run.samples_ns.assign(96, 1'000'000);
  run.samples_ns.insert(run.samples_ns.begin() + 50, 4, 500'000'000);
  EXPECT_NEAR(typical_frame_ms(run), 1, 1e-12);
  run.samples_ns.assign(60, 1'000'000);
  run.samples_ns.insert(run.samples_ns.begin() + 20, 40, 2'000'000);
  EXPECT_NEAR(typical_frame_ms(run), std::exp2(35.0 / 90), 1e-12) << "a median would say 1";
}

TEST(JudgedRun, WaitingForACoreIsNoCost) {
  mileage::Run run;
  run.samples_ns.assign(40, 2'000'000);
  run.waited_ns.assign(40, 0);
  for (std::size_t i = 0; i < 40; i += 2) run.samples_ns[i] += run.waited_ns[i] = 4'000'000;
  EXPECT_NEAR(typical_frame_ms(run), 2, 1e-12);
  EXPECT_EQ(own_ns(run, 0), 2'000'000);
  run.waited_ns.assign(40, 50'000'000);
  EXPECT_EQ(own_ns(run, 0), 6'000'000) << "the core was taken away beside the sample and not in it";
  run.waited_ns.assign(3, 1);
  EXPECT_GT(typical_frame_ms(run), 2) << "of other samples";
}

}  // namespace
}  // namespace mileage
