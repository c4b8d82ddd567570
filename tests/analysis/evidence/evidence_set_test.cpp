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

TEST(EvidenceSet, NeighboursOfVeryManyBlocksArePooled) {
  made::Setting setting;
  setting.truths = {{"plain", [](double n) { return 1e-3 * n; }}};
  setting.counts = {100, 200};
  setting.blocks = 100;
  setting.samples = 3;
  const Study study = made::study_of(setting);
  const EvidenceSet evidence = gather_evidence(study);
  EXPECT_EQ(evidence.blocks_made, 100U);
  EXPECT_EQ(evidence.blocks.size(), 30U);
  ASSERT_EQ(evidence.series.size(), 1U);
  EXPECT_EQ(evidence.series[0].runs.size(), 200U) << "none is lost";
  EXPECT_FALSE((evidence.series[0].log_ms != evidence.series[0].log_ms).any());
}

TEST(EvidenceSet, WhatIsMissingLeavesAHole) {
  Study study = night_of_two();
  study.runs.erase(study.runs.begin());
  const EvidenceSet evidence = gather_evidence(study);
  int holes = 0;
  for (const SeriesEvidence& one : evidence.series) holes += static_cast<int>((one.log_ms != one.log_ms).count());
  EXPECT_EQ(holes, 1);
}

TEST(EvidenceSet, ABlockInWhichTimeRanOutIsNoRepetitionAndSmallerOnesThanTheFirstAre) {
  made::Setting setting;
  setting.truths = {{"objects", [](double n) { return 1e-3 * n; }}};
  setting.counts = {100, 200, 400, 800, 1600, 3200, 6400};
  setting.blocks = 5;
  Study study = made::study_of(setting);
  std::erase_if(study.runs,
                [](const mileage::Run& run) { return run.block > 0 && run.count < (run.block < 4 ? 1600 : 6400); });
  const EvidenceSet evidence = gather_evidence(study);
  const Eigen::ArrayXXd& log_ms = evidence.series.front().log_ms;
  const Eigen::ArrayXi present = (log_ms == log_ms).cast<int>().colwise().sum();
  EXPECT_THAT(std::vector<int>(present.begin(), present.end()), ElementsAre(7, 3, 3, 3, 0));
}

TEST(EvidenceSet, RunsAreJudgedByTheSlowdownOfTheWholeStudy) {
  Study study = night_of_two();
  for (mileage::Run& run : study.runs) run.yardstick = YardstickReading{3, 20, 100, 100, 100};
  study.runs[5].yardstick = YardstickReading{3, 20, 250, 250, 100};
  const EvidenceSet evidence = gather_evidence(study);
  for (std::size_t i = 0; i < evidence.runs.size(); ++i) EXPECT_EQ(evidence.runs[i].is_evidence, i != 5) << i;
  EXPECT_EQ(evidence.quiet.condemned, 1U);
}

TEST(EvidenceSet, TellsHowFarProbesLieApartAndWhatLongFramesAddUp) {
  Study study = night_of_two();
  for (mileage::Run& run : study.runs) {
    run.yardstick = YardstickReading{3, 20, 100, 100, 100};
    run.yardstick->moments = 4;
    run.yardstick->geometric_ns = 80;
  }
  const EvidenceSet evidence = gather_evidence(study);
  const SeriesEvidence& known = evidence.series.front();
  EXPECT_NEAR(known.slowdowns.mean_excess(1, 1), std::log(100.0 / 80), 1e-9);
  ASSERT_EQ(known.slowdowns.probe_spacing_ms.size(), 3);
  EXPECT_NEAR(known.slowdowns.probe_spacing_ms(2) / known.slowdowns.probe_spacing_ms(0),
              std::exp(known.log_ms(2, 0) - known.log_ms(0, 0)), 1e-2);
  const JudgedRun& first = *known.runs.front();
  EXPECT_NEAR(known.slowdowns.probe_spacing_ms(known.x.front() == first.x ? 0 : 2), measured_wall_ms(*first.run) / 4,
              1e-3);
  study.runs.front().yardstick->moments = 0;
  EXPECT_EQ(gather_evidence(study).series.front().slowdowns.probe_spacing_ms.size(), 3) << "others of the place tell";
  for (mileage::Run& run : study.runs) run.yardstick->moments = 0;
  EXPECT_EQ(gather_evidence(study).series.front().slowdowns.probe_spacing_ms.size(), 0)
      << "probed around the frames alone";
}

TEST(EvidenceSet, SeveralRunsOfACellAreAveragedOnTheLogScale) {
  Study study = night_of_two(1);
  mileage::Run again = study.runs.front();
  for (std::int64_t& sample : again.samples_ns) sample *= 4;
  study.runs.push_back(again);
  const EvidenceSet evidence = gather_evidence(study);
  for (const SeriesEvidence& one : evidence.series)
    if (one.series == again.series) {
      const auto row = std::find(one.x.begin(), one.x.end(), static_cast<double>(again.count)) - one.x.begin();
      EXPECT_NEAR(one.log_ms(row, 0), std::log(2 * typical_frame_ms(study.runs.front())), 1e-6);
    }
}

TEST(EvidenceSet, TablesWithoutRepetitionAreGivenAnAssumedError) {
  Study study = night_of_two(1);
  EXPECT_FALSE(gather_evidence(study).series.front().assumed_error);
  study.head.made_by = MadeBy::tables;
  EXPECT_TRUE(gather_evidence(study).series.front().assumed_error);
}

}  // namespace
}  // namespace mileage
