#include "analysis/evidence/machine_condition.h"

#include <cmath>

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "analysis/evidence/evidence_set.h"
#include "support/made_studies.h"
#include "support/reports.h"

namespace mileage {
namespace {

using testing::HasSubstr;

Study study_at(double probe_ns) {
  made::Setting setting;
  setting.truths = {{"objects", [](double n) { return 1e-3 * n; }}};
  setting.counts = made::counts_between(100, 10'000, 8);
  setting.run_noise = 0.01;
  Study study = made::study_of(setting);
  for (mileage::Run& run : study.runs) run.yardstick = YardstickReading{3, 20, probe_ns, probe_ns, probe_ns};
  return study;
}

MachineCondition condition_in(const Study& study) { return gather_evidence(study).quiet; }

TEST(MachineCondition, TellsTheFullSpeedAndHowSlowTheRunsWere) {
  Study study = study_at(100);
  for (std::size_t i = 0; i < study.runs.size(); i += 2) study.runs[i].yardstick->one_half_ns = 144;
  const MachineCondition quiet = condition_in(study);
  EXPECT_EQ(quiet.fast_ns, 100);
  EXPECT_NEAR(*quiet.slowness, std::sqrt(1.2), 1e-9) << "geometric mean: half of the runs at 1.2, half at 1";
}

TEST(MachineCondition, AStudySlowThroughoutSaysSo) {
  Study study = study_at(100);
  study.head.full_speed_ns = 60;
  EXPECT_TRUE(condition_in(study).slow_throughout);
  EXPECT_THAT(report_of(study).about.warnings.at(0),
              HasSubstr("the machine ran 1.67x slower than usual during the whole study"));
}

TEST(MachineCondition, CountsWhatWasRepeated) {
  Study study = study_at(100);
  study.runs[3].status = RunStatus::disturbed;
  study.runs[3].yardstick = YardstickReading{3, 20, 250, 250, 100};
  const MachineCondition quiet = condition_in(study);
  EXPECT_EQ(quiet.condemned, 1U);
  EXPECT_EQ(quiet.kept, study.runs.size() - 1);
}

}  // namespace
}  // namespace mileage
