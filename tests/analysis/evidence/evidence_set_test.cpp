#include "analysis/evidence/evidence_set.h"

#include <cmath>

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "analysis/curves/curve.h"
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

TEST(EvidenceSet, HasATablePerSeriesByPlaceAndBlock) {
  const Study study = night_of_two();
  const EvidenceSet evidence = gather_evidence(study);
  EXPECT_THAT(evidence.blocks, ElementsAre(0, 1, 2, 3));
  ASSERT_EQ(evidence.series.size(), 2U);
  const SeriesEvidence& columns = evidence.series[1];
  EXPECT_EQ(columns.label, "columns");
  EXPECT_EQ(columns.rank, 1);
  EXPECT_THAT(columns.x, ElementsAre(100, 200, 400));
  ASSERT_EQ(columns.log_ms.rows(), 3);
  ASSERT_EQ(columns.log_ms.cols(), 4);
  EXPECT_NEAR(columns.log_ms(2, 3), std::log(0.04), 1e-3);
  EXPECT_EQ(columns.visits.size(), 12U);
}

TEST(EvidenceSet, WhatIsNoEvidenceLeavesAHole) {
  Study study = night_of_two();
  study.visits.front().status = VisitStatus::failed;
  study.visits.front().failure = "no";
  const EvidenceSet evidence = gather_evidence(study);
  int holes = 0;
  for (const SeriesEvidence& one : evidence.series) holes += static_cast<int>((one.log_ms != one.log_ms).count());
  EXPECT_EQ(holes, 1);
  EXPECT_EQ(evidence.failures.size(), 1U);
}

TEST(EvidenceSet, VisitsAreJudgedByTheLevelOfTheWholeStudy) {
  Study study = night_of_two();
  for (Visit& visit : study.visits) visit.yardstick = YardstickReading{3, 20, 100, 100, 100};
  study.visits[5].yardstick = YardstickReading{3, 20, 250, 250, 100};
  const EvidenceSet evidence = gather_evidence(study);
  for (std::size_t i = 0; i < evidence.visits.size(); ++i) EXPECT_EQ(evidence.visits[i].is_evidence, i != 5) << i;
  EXPECT_EQ(evidence.quiet.condemned, 1U);
}

TEST(EvidenceSet, SeveralVisitsOfACellAreAveragedOnTheLogScale) {
  Study study = night_of_two(1);
  Visit again = study.visits.front();
  for (std::int64_t& sample : again.samples_ns) sample *= 4;
  study.visits.push_back(again);
  const EvidenceSet evidence = gather_evidence(study);
  for (const SeriesEvidence& one : evidence.series)
    if (one.series == again.series) {
      const auto row = std::find(one.x.begin(), one.x.end(), static_cast<double>(again.count)) - one.x.begin();
      EXPECT_NEAR(one.log_ms(row, 0), std::log(2 * typical_frame_ms(study.visits.front())), 1e-6);
    }
}

TEST(EvidenceSet, TablesWithoutRepetitionAreGivenAnAssumedError) {
  Study study = night_of_two(1);
  EXPECT_FALSE(gather_evidence(study).series.front().assumed_error);
  study.head.made_by = MadeBy::tables;
  EXPECT_TRUE(gather_evidence(study).series.front().assumed_error);
}

/// Jobs on two cores: half of 1 us an entity, or all of it below 30,000 entities where others have the second core.
Study jobs_beside(bool others) {
  made::Setting setting;
  setting.truths = {{"jobs", [&](double n) { return (others && n < 30'000 ? 1e-3 : 0.5e-3) * n; }}};
  setting.counts = made::counts_between(1000, 100'000, 9);
  setting.blocks = 6;
  setting.visit_noise = 0.01;
  Study study = made::study_of(setting);
  for (Visit& visit : study.visits) {
    visit.processor_ms = 1e-3 * static_cast<double>(visit.count * visit.measured_frames());
    visit.load = MachineLoad{2, 0, others ? 1.0 : 0.3};
  }
  return study;
}

TEST(EvidenceSet, CoresThatOthersHadWidenWhatWasTold) {
  const Study beside = jobs_beside(true);
  const EvidenceSet evidence = gather_evidence(beside);
  const std::vector<double>& lost = evidence.series.at(0).lost_cores;
  ASSERT_EQ(lost.size(), 9U);
  EXPECT_NEAR(lost.front(), std::log(2), 0.03) << "told as 1 us each, and half of that on free cores";
  EXPECT_LT(lost.back(), 0.03) << "long frames come to both cores";
  const SeriesCurve curve = fit_series(evidence.series.at(0));
  EXPECT_LT(*curve.ms_interval_at(3000).low, 1.5) << "the cost on free cores is inside";
  EXPECT_LT(std::log(*curve.ms_interval_at(90'000).high / *curve.ms_interval_at(90'000).low), 0.1);

  const Study free = jobs_beside(false);
  const EvidenceSet alone = gather_evidence(free);
  for (const double doubt : alone.series.at(0).lost_cores) EXPECT_EQ(doubt, 0) << "nobody else had a core";
}

TEST(EvidenceSet, AWayOfOneCoreLosesNone) {
  Study study = jobs_beside(true);
  for (Visit& visit : study.visits) *visit.processor_ms *= visit.count < 30'000 ? 1.0 : 0.5;
  EXPECT_TRUE(gather_evidence(study).series.at(0).lost_cores.empty());
}

}  // namespace
}  // namespace mileage
