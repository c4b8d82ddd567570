#include "analysis/evidence/model_rows.h"

#include <cmath>

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/made_studies.h"

namespace mileage {
namespace {

Study small_study() {
  made::Setting setting;
  setting.truths = {{"objects", [](double n) { return n * 1e-3; }}, {"columns", [](double n) { return n * 2e-4; }}};
  setting.counts = {100, 1000};
  setting.blocks = 3;
  return made::study_of(setting);
}

std::vector<ModelRow> rows_of(const Study& study) { return model_rows(gather_evidence(study)); }

TEST(ModelRows, HoldEveryRunOfTheBlocksWithItsCost) {
  const Study study = small_study();
  const std::vector<ModelRow> rows = rows_of(study);
  ASSERT_EQ(rows.size(), study.runs.size());
  EXPECT_EQ(rows[0].series, 0);
  EXPECT_EQ(rows[1].series, 1);
  EXPECT_NEAR(rows[0].log_x, std::log(100), 1e-9);
  EXPECT_NEAR(rows[0].log_ms, std::log(0.1), 1e-6);
  EXPECT_EQ(rows.back().block, 2);
  EXPECT_EQ(rows.back().process, -1) << "each run has a process of its own";
  EXPECT_FALSE(rows[0].probes);
}

TEST(ModelRows, DisturbedRunsCountAndChecksDoNot) {
  Study study = small_study();
  study.runs[0].status = RunStatus::disturbed;
  study.runs[1].status = RunStatus::check;
  EXPECT_EQ(rows_of(study).size(), study.runs.size() - 1);
}

TEST(ModelRows, WaitingIsRelativeToTheFramesOwnTime) {
  Study study = small_study();
  for (mileage::Run& run : study.runs) {
    run.waited_ns.assign(run.samples_ns.size(), 0);
    for (std::size_t i = 0; i < run.samples_ns.size(); ++i) run.waited_ns[i] = run.samples_ns[i] / 3;
  }
  EXPECT_NEAR(rows_of(study).front().waiting, 0.5, 1e-3);
}

TEST(ModelRows, ProbesOfDifferentProgramsAndCoresAreOfDifferentKinds) {
  Study study = small_study();
  study.head.full_speed_ns = 15'000;
  study.head.full_speed_on_cores_ns["2"] = 16'000;
  for (mileage::Run& run : study.runs) {
    run.yardstick = YardstickReading{3, 10, 15'000, 15'000, 15'000};
    if (run.series.variant == "columns") run.yardstick->cores = 2;
  }
  study.runs.back().yardstick->program = "night";
  const std::vector<ModelRow> rows = rows_of(study);
  EXPECT_NE(rows[0].probes->kind, rows[1].probes->kind);
  EXPECT_EQ(rows[0].probes->remembered_ns, 15'000);
  EXPECT_EQ(rows[1].probes->remembered_ns, 16'000);
  EXPECT_FALSE(rows.back().probes->remembered_ns) << "another program's probe was compiled otherwise";
}

TEST(ModelRows, RunsOfADrivenGameKeepTheirProcess) {
  Study study = small_study();
  study.head.made_by = MadeBy::game;
  for (mileage::Run& run : study.runs) run.process = run.block;
  EXPECT_EQ(rows_of(study).back().process, 2);
}

}  // namespace
}  // namespace mileage
