#include "analysis/evidence/failures_and_bounds.h"

#include <gtest/gtest.h>

#include "analysis/evidence/evidence_set.h"
#include "support/made_studies.h"

namespace mileage {
namespace {

Study dark_night() {
  made::Setting setting;
  setting.truths = {{"objects", [](double n) { return 1e-3 * n; }}};
  setting.counts = {100, 200, 400};
  return made::study_of(setting);
}

TEST(Unmeasured, AFailureIsNamedWithItsPlace) {
  Study study = dark_night();
  study.runs[1].status = RunStatus::failed;
  study.runs[1].failure = "ended by SIGSEGV";
  for (const auto& failures : {failures_of(study), gather_evidence(study).failures}) {
    ASSERT_EQ(failures.size(), 1U);
    EXPECT_EQ(failures[0].label, "objects");
    EXPECT_EQ(failures[0].x, static_cast<double>(study.runs[1].count));
    EXPECT_EQ(failures[0].block, study.runs[1].block);
    EXPECT_EQ(failures[0].reason, "ended by SIGSEGV");
  }
}

TEST(Unmeasured, OfSeveralBoundsAtAPlaceTheLargestHolds) {
  Study study = dark_night();
  for (mileage::Run& run : study.runs)
    if (run.count == 100) {
      run.status = RunStatus::bound;
      run.failure = "capped";
      run.samples_ns = {run.block == 2 ? 17'000'000 : 16'000'000};
    }
  const auto bounds = gather_evidence(study).bounds;
  ASSERT_EQ(bounds.size(), 1U);
  EXPECT_EQ(bounds[0].x, 100);
  EXPECT_NEAR(bounds[0].at_most_ms, 17, 1e-9);
  EXPECT_EQ(bounds[0].reason, "capped");
}

}  // namespace
}  // namespace mileage
