#include "analysis/evidence/agreement.h"

#include <functional>

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/made_studies.h"
#include "support/reports.h"

namespace mileage {
namespace {

using testing::HasSubstr;

class AgreementTest : public testing::Test {
 protected:
  AgreementTest() {
    made::Setting setting;
    setting.truths = {{"objects", [](double n) { return 1e-4 * n; }}, {"jobs", [](double n) { return 2e-5 * n; }}};
    setting.counts = made::counts_between(100, 400'000, 10);
    study_ = made::study_of(setting);
  }

  void check(const std::string& variant, double height, double workers = 0) {
    mileage::Run run;
    const Series jobs{"jobs", {}};
    run.series = variant == jobs.variant ? jobs : reference_series(jobs, study_.head.scenario);
    run.status = RunStatus::check;
    run.count = 100;
    if (workers > 0) run.varied.set("workers", workers);
    run.outcome.state("mean height", height, 0.01);
    study_.runs.push_back(run);
  }

  void count_updates(const std::function<double(const mileage::Run&)>& updates_a_frame) {
    for (mileage::Run& run : study_.runs) {
      if (run.samples_ns.empty()) continue;
      run.counters["updates"] = updates_a_frame(run) * static_cast<double>(run.measured_frames());
    }
    for (Series& series : study_.head.plan.series)
      if (series.variant == "objects") series = reference_series({"jobs", {}}, study_.head.scenario);
    for (mileage::Run& run : study_.runs)
      if (run.series.variant == "objects") run.series = study_.head.plan.series.front();
  }

  AgreementVerdict verdict_of_jobs() const { return agreements_of(study_).at(1).verdict; }

  Study study_;
};

TEST_F(AgreementTest, WithoutChecksNothingIsClaimed) { EXPECT_EQ(verdict_of_jobs(), AgreementVerdict::unchecked); }

TEST_F(AgreementTest, OutcomesWithinTheToleranceAgree) {
  check("objects", 1.0);
  check("jobs", 1.005);
  EXPECT_EQ(verdict_of_jobs(), AgreementVerdict::agrees);
  EXPECT_NEAR(agreements_of(study_)[1].largest_error, 0.005, 1e-9);
}

TEST_F(AgreementTest, ADifferingVariantIsNamedWithBothValuesAndTakesPartInNoAnswer) {
  check("objects", 1.0);
  check("jobs", 1.5);
  EXPECT_EQ(verdict_of_jobs(), AgreementVerdict::differs);
  const Report report = report_of(study_);
  ASSERT_EQ(report.about.series.size(), 1U);
  EXPECT_EQ(report.about.label(0), "objects");
  EXPECT_THAT(
      report.about.warnings.at(0),
      HasSubstr(
          "jobs is excluded: its outcome differs from objects: mean height is 1.5, expected 1 (tolerance 0.015) at "
          "100"));
}

TEST_F(AgreementTest, ChecksAreComparedWithThoseOfAsManyFrames) {
  check("objects", 1.0);
  check("jobs", 1.0);
  check("jobs", 1.5);
  study_.runs.back().check_frames = 600;
  EXPECT_EQ(verdict_of_jobs(), AgreementVerdict::agrees) << "the reference was not run so long";
  check("objects", 1.0);
  study_.runs.back().check_frames = 600;
  EXPECT_EQ(verdict_of_jobs(), AgreementVerdict::differs);
}

// Like a 16-bit index.
TEST_F(AgreementTest, FewerUpdatesThanTheReferenceMakesAreOtherWork) {
  check("objects", 1.0);
  check("jobs", 1.0);
  count_updates([](const mileage::Run& run) {
    return static_cast<double>(run.series.variant == "jobs" ? run.count % 65'536 : run.count);
  });
  EXPECT_EQ(verdict_of_jobs(), AgreementVerdict::differs);
  EXPECT_THAT(report_of(study_).about.warnings.at(0), HasSubstr("updates per frame is"));
  study_.head.scenario.variants[1].may_skip = true;
  EXPECT_EQ(verdict_of_jobs(), AgreementVerdict::agrees);
}

TEST_F(AgreementTest, UpdatesAreComparedWhereTheReferenceWasNotMeasured) {
  std::erase_if(study_.runs,
                [](const mileage::Run& run) { return run.count > 1000 && run.series.variant == "objects"; });
  count_updates([](const mileage::Run& run) { return static_cast<double>(run.count); });
  EXPECT_EQ(verdict_of_jobs(), AgreementVerdict::unchecked);
  count_updates(
      [](const mileage::Run& run) { return static_cast<double>(run.count) * (run.count > 100'000 ? 0.99 : 1); });
  EXPECT_EQ(verdict_of_jobs(), AgreementVerdict::differs);
}

TEST_F(AgreementTest, UpdatesThatVaryAreComparedLoosely) {
  int turn = 0;
  count_updates(
      [&](const mileage::Run& run) { return static_cast<double>(run.count) * (turn++ / 2 % 2 == 0 ? 1 : 1.01); });
  EXPECT_EQ(verdict_of_jobs(), AgreementVerdict::unchecked);
}

TEST_F(AgreementTest, ADifferenceWithSomeNumberOfWorkersCounts) {
  check("objects", 1.0);
  check("jobs", 1.0);
  check("jobs", 1.5, 2);
  EXPECT_EQ(verdict_of_jobs(), AgreementVerdict::differs);
  EXPECT_THAT(report_of(study_).about.warnings.at(0), HasSubstr("at 100 workers=2"));
}

TEST_F(AgreementTest, DifferingFromRunToRunIsAVerdictOfItsOwn) {
  check("objects", 1.0);
  check("jobs", 1.0, 2);
  check("jobs", 1.02, 2);
  EXPECT_EQ(verdict_of_jobs(), AgreementVerdict::unstable);
  EXPECT_THAT(report_of(study_).about.warnings.at(0), HasSubstr("differs from check to check"));
}

TEST_F(AgreementTest, ADeclaredApproximationStaysInWithItsError) {
  study_.head.scenario.variants[1].approximate = true;
  check("objects", 1.0);
  check("jobs", 1.1);
  EXPECT_EQ(verdict_of_jobs(), AgreementVerdict::approximate);
  const Report report = report_of(study_);
  EXPECT_EQ(report.about.series.size(), 2U);
  EXPECT_THAT(report.about.warnings.at(0), HasSubstr("jobs is approximate: off by up to 0.1"));
}

}  // namespace
}  // namespace mileage
