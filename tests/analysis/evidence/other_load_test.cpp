#include "analysis/evidence/other_load.h"

#include <cmath>

#include <gtest/gtest.h>

#include "analysis/curves/series_curve.h"
#include "analysis/evidence/evidence_set.h"
#include "support/made_studies.h"

namespace mileage {
namespace {

/// Jobs on two cores: 0.5 us per entity, or 1 us below 30,000 entities if others use the second core.
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

double lacking_at(const EvidenceSet& evidence, double x) {
  const auto lacking = lacking_cores(evidence.series.at(0).runs);
  double sum = 0, runs = 0;
  for (const JudgedRun* one : evidence.series.at(0).runs)
    if (one->x == x) {
      const auto found = lacking.find(one->run);
      sum += found == lacking.end() ? 0 : found->second;
      runs += 1;
    }
  return sum / runs;
}

TEST(WorkBeside, CoresThatOthersHadMayHaveMadeFramesLonger) {
  const Study beside = jobs_beside(true);
  const EvidenceSet evidence = gather_evidence(beside);
  EXPECT_NEAR(lacking_at(evidence, 1000), std::log(2), 0.03) << "1 us each, and half of that on free cores";
  EXPECT_LT(lacking_at(evidence, 100'000), 0.03) << "long frames come to both cores";
  const auto curves = fit_curves(evidence);
  EXPECT_LT(*curves[0].ms_interval_at(3162).low, 1.7) << "nearly down to the cost on free cores";
  const Study free = jobs_beside(false);
  EXPECT_TRUE(lacking_cores(gather_evidence(free).series.at(0).runs).empty()) << "nobody else had a core";
}

TEST(WorkBeside, FramesThatShowTheirWaitingHideNone) {
  mileage::Run run;
  run.load = MachineLoad{2, 0, 0.5};
  Head head;
  head.made_by = MadeBy::game;
  EXPECT_NEAR(unseen_waiting(head, run), std::log(1.5), 1e-9) << "it may have waited, and did not say so";
  run.waited_ns = {0, 2000};
  EXPECT_EQ(unseen_waiting(head, run), 0);
  head.made_by = MadeBy::tables;
  EXPECT_GT(unseen_waiting(head, run), 0);
}

TEST(WorkBeside, AVariantOfOneCoreLacksNone) {
  Study study = jobs_beside(true);
  for (mileage::Run& run : study.runs) *run.processor_ms *= run.count < 30'000 ? 1.0 : 0.5;
  EXPECT_TRUE(lacking_cores(gather_evidence(study).series.at(0).runs).empty());
}

}  // namespace
}  // namespace mileage
