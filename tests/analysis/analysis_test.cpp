#include "analysis/analysis.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/made_studies.h"
#include "types/error.h"

namespace mileage {
namespace {

Study night() {
  made::Setting setting;
  setting.truths = {{"objects", [](double n) { return 1e-3 * n; }}, {"columns", [](double n) { return 1e-4 * n; }}};
  setting.counts = {100, 200, 400, 800};
  setting.run_noise = 0.01;
  return made::study_of(setting);
}

TEST(Analysis, HasACurveForEverySeriesOfTheEvidence) {
  const Study study = night();
  const Analysis analysis = analyse(study);
  ASSERT_EQ(analysis.curves.size(), analysis.evidence.series.size());
  EXPECT_NEAR(analysis.curves[1].cost_at(400)->ms, 0.04, 0.002);
  EXPECT_FALSE(analysis.curves[1].cost_at(4000)) << "not measured that far";
}

TEST(Analysis, AStudyWithoutEvidenceIsRefusedWithWhatItTells) {
  Study study = night();
  for (mileage::Run& run : study.runs) {
    run.status = RunStatus::failed;
    run.failure = "the string tore";
  }
  try {
    analyse(study);
    FAIL();
  } catch (const Error& error) {
    EXPECT_THAT(error.what(), testing::HasSubstr("no finished run to answer from; the string tore"));
  }
}

}  // namespace
}  // namespace mileage
