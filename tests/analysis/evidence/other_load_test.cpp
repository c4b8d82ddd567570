#include "analysis/evidence/other_load.h"

#include <cmath>

#include <gtest/gtest.h>

#include "analysis/curves/curve.h"
#include "analysis/evidence/evidence_set.h"
#include "support/made_studies.h"

namespace mileage {
namespace {

/// Jobs on two cores: half of 1 us an entity, or all of it below 30,000 entities where others have the second core.
Study jobs_beside(bool others) {
  made::Setting setting;
  setting.truths = {{"jobs", [&](double n) { return (others && n < 30'000 ? 1e-3 : 0.5e-3) * n; }}};
  setting.counts = made::counts_between(1000, 100'000, 9);
  setting.blocks = 6;
  setting.run_noise = 0.01;
  Study study = made::study_of(setting);
  for (mileage::Run& run : study.runs) {
    run.processor_ms = 1e-3 * static_cast<double>(run.count * run.measured_frames());
    run.load = MachineLoad{2, 0, others ? 1.0 : 0.3};
  }
  return study;
}

TEST(WorkBeside, CoresThatOthersHadWidenWhatWasTold) {
  const Study beside = jobs_beside(true);
  const EvidenceSet evidence = gather_evidence(beside);
  const std::vector<double>& lost = evidence.series.at(0).taken_cores;
  ASSERT_EQ(lost.size(), 9U);
  EXPECT_NEAR(lost.front(), std::log(2), 0.03) << "told as 1 us each, and half of that on free cores";
  EXPECT_LT(lost.back(), 0.03) << "long frames come to both cores";
  const SeriesCurve curve = fit_series(evidence.series.at(0));
  EXPECT_NEAR(*curve.ms_interval_at(3000).low, 1.5, 0.02) << "down to the cost on free cores";
  EXPECT_LT(std::log(*curve.ms_interval_at(90'000).high / *curve.ms_interval_at(90'000).low), 0.1);

  const Study free = jobs_beside(false);
  const EvidenceSet alone = gather_evidence(free);
  for (const double uncertainty : alone.series.at(0).taken_cores) EXPECT_EQ(uncertainty, 0) << "nobody else had a core";
}

TEST(WorkBeside, ADrivenGameThatTellsOfItsWaitingNeedsNoDoubtForIt) {
  mileage::Run run;
  run.load = MachineLoad{2, 0, 0.5};
  JudgedRun judged;
  judged.run = &run;
  const JudgedRuns runs{&judged};
  Head head;
  head.made_by = MadeBy::game;
  EXPECT_NEAR(load_uncertainty(head, runs), std::log(1.5), 1e-9) << "it may have waited, and did not say so";
  run.waited_ns = {0, 2000};
  EXPECT_EQ(load_uncertainty(head, runs), 0);
  head.made_by = MadeBy::tables;
  EXPECT_GT(load_uncertainty(head, runs), 0);
}

TEST(WorkBeside, AWayOfOneCoreLosesNone) {
  Study study = jobs_beside(true);
  for (mileage::Run& run : study.runs) *run.processor_ms *= run.count < 30'000 ? 1.0 : 0.5;
  EXPECT_TRUE(gather_evidence(study).series.at(0).taken_cores.empty());
}

}  // namespace
}  // namespace mileage
