#include "analysis/evidence/evidence_set.h"

#include <cmath>

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/made_studies.h"

namespace mileage {
namespace {

using testing::ElementsAre;

Study night_of_two(int blocks = 4) {
  made::Setting setting;
  setting.truths = {{"objects", [](double n) { return 1e-3 * n; }}, {"columns", [](double n) { return 1e-4 * n; }}};
  setting.counts = {100, 200, 400};
  setting.blocks = blocks;
  return made::study_of(setting);
}

TEST(EvidenceSet, HasRunsAndPlacesBySeries) {
  const Study study = night_of_two();
  const EvidenceSet evidence = gather_evidence(study);
  EXPECT_THAT(evidence.blocks, ElementsAre(0, 1, 2, 3));
  ASSERT_EQ(evidence.series.size(), 2U);
  const SeriesEvidence& columns = evidence.series[1];
  EXPECT_EQ(columns.label, "columns");
  EXPECT_EQ(columns.rank, 1);
  EXPECT_THAT(columns.x, ElementsAre(100, 200, 400));
  EXPECT_EQ(columns.runs.size(), 12U);
}

TEST(EvidenceSet, WhatFailedAtACountIsNoEvidenceThereAndBeyond) {
  Study study = night_of_two();
  study.runs[2].status = RunStatus::failed;
  study.runs[2].failure = "no";
  const EvidenceSet evidence = gather_evidence(study);
  EXPECT_EQ(evidence.failures.size(), 1U);
  ASSERT_EQ(evidence.series.size(), 2U);
  EXPECT_EQ(study.runs[2].count, 200);
  EXPECT_THAT(evidence.series[0].x, ElementsAre(100));
  EXPECT_EQ(evidence.series[0].fails_from, 200);
  EXPECT_THAT(evidence.series[1].x, ElementsAre(100, 200, 400));
  EXPECT_FALSE(evidence.series[1].fails_from);
}

TEST(EvidenceSet, RunsAreJudgedByTheSlowdownOfTheWholeStudy) {
  Study study = night_of_two();
  for (mileage::Run& run : study.runs) run.yardstick = YardstickReading{3, 20, 100, 100, 100};
  study.runs[5].yardstick = YardstickReading{3, 20, 250, 250, 100};
  const EvidenceSet evidence = gather_evidence(study);
  for (std::size_t i = 0; i < evidence.runs.size(); ++i) EXPECT_EQ(evidence.runs[i].is_evidence, i != 5) << i;
  EXPECT_EQ(evidence.quiet.condemned, 1U);
}

TEST(EvidenceSet, CountsProcessesThatMadeSeveralBlocks) {
  Study study = night_of_two();
  EXPECT_EQ(gather_evidence(study).processes, 0U) << "every run has its own";
  for (mileage::Run& run : study.runs) run.process = run.block / 2;
  EXPECT_EQ(gather_evidence(study).processes, 2U);
}

}  // namespace
}  // namespace mileage
