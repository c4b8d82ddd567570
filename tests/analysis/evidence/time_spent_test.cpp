#include "analysis/evidence/time_spent.h"

#include <gtest/gtest.h>

namespace mileage {
namespace {

/// 20 ms of frames, 5 ms warm-up, 30 ms set-up, ten probes of 0.1 ms, in 100 ms.
mileage::Run run_of_a_tenth(int block, RunStatus status = RunStatus::kept) {
  mileage::Run run;
  run.block = block;
  run.status = status;
  run.took_s = 0.1;
  run.setup_ms = 30;
  run.warmup_ns = {5'000'000};
  run.samples_ns = {12'000'000, 8'000'000};
  run.yardstick = YardstickReading{3, 10, 1e5, 1e5, 1e5};
  return run;
}

Study study_with(std::vector<mileage::Run> runs, MadeBy made_by = MadeBy::program) {
  Study study;
  study.head.made_by = made_by;
  study.runs = std::move(runs);
  return study;
}

TEST(TimeSpent, PartsAddUpToTheWhole) {
  const auto spent =
      time_spent(study_with({run_of_a_tenth(-1, RunStatus::check), run_of_a_tenth(0),
                             run_of_a_tenth(0, RunStatus::disturbed), run_of_a_tenth(1, RunStatus::failed)}));
  ASSERT_TRUE(spent);
  EXPECT_DOUBLE_EQ(spent->whole_s, 0.4);
  EXPECT_DOUBLE_EQ(spent->before_s, 0.1);
  EXPECT_DOUBLE_EQ(spent->lost_s, 0.1);
  EXPECT_DOUBLE_EQ(spent->frames_s, 0.04);
  EXPECT_DOUBLE_EQ(spent->settling_s, 0.01);
  EXPECT_DOUBLE_EQ(spent->set_up_s, 0.06);
  EXPECT_DOUBLE_EQ(spent->yardstick_s, 0.002);
  EXPECT_NEAR(spent->rest_s, 0.2 - 0.112, 1e-12);
  EXPECT_FALSE(spent->overhead_ms) << "no commands";
}

TEST(TimeSpent, TheStartOfACommandStandsApartFromItsFrames) {
  const auto spent = time_spent(study_with({run_of_a_tenth(0), run_of_a_tenth(1)}, MadeBy::commands));
  EXPECT_NEAR(*spent->overhead_ms, 100 - 25 - 1, 1e-9);
}

TEST(TimeSpent, TablesDoNotTell) {
  mileage::Run run = run_of_a_tenth(0);
  run.took_s = 0;
  EXPECT_FALSE(time_spent(study_with({run}, MadeBy::tables)));
}

}  // namespace
}  // namespace mileage
