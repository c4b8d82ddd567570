#include "analysis/evidence/quietness.h"

#include <cmath>
#include <random>

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "analysis/evidence/evidence_set.h"
#include "support/made_studies.h"
#include "support/reports.h"

namespace mileage {
namespace {

using testing::HasSubstr;

/// A study whose visits took `share` of what the yardstick varied by.
Study following_study(double share) {
  made::Setting setting;
  setting.truths = {{"objects", [](double n) { return 1e-3 * n; }}};
  setting.counts = made::counts_between(100, 10'000, 8);
  setting.visit_noise = 0.01;
  Study study = made::study_of(setting);
  std::mt19937_64 random(4);
  std::normal_distribution<double> normal(0, 0.05);
  for (Visit& visit : study.visits) {
    const double slower = normal(random);
    visit.yardstick = {1, {100 * std::exp(slower), 1}, {100 * std::exp(slower), 1}};
    for (std::int64_t& sample : visit.samples_ns)
      sample = std::llround(static_cast<double>(sample) * std::exp(share * slower));
  }
  return study;
}

Quietness quietness_in(const Study& study) { return gather_evidence(study).quiet; }

TEST(Quietness, TellsWhenKeptFramesStillFollowTheYardstick) {
  EXPECT_GT(*quietness_in(following_study(1)).follows_yardstick, 0.9);
  EXPECT_LT(std::fabs(*quietness_in(following_study(0)).follows_yardstick), 0.3);
  EXPECT_THAT(report_of(following_study(1)).about.warnings.at(0), HasSubstr("frame times still follow the yardstick"));
}

TEST(Quietness, AStudySlowThroughoutSaysSo) {
  Study study = following_study(0);
  study.head.remembered_yardstick_ns = 50;
  EXPECT_THAT(report_of(study).about.warnings.at(0), HasSubstr("this machine as it was"));
}

TEST(Quietness, CountsWhatWasRepeated) {
  Study study = following_study(0);
  study.visits[3].status = VisitStatus::disturbed;
  study.visits[3].yardstick->after.arithmetic_ns = 200;
  const Quietness quiet = quietness_in(study);
  EXPECT_EQ(quiet.condemned, 1U);
  EXPECT_EQ(quiet.kept, study.visits.size() - 1);
}

}  // namespace
}  // namespace mileage
