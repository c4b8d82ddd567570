#include "analysis/answers/groups.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "analysis/analysis.h"
#include "analysis/answers/questions.h"
#include "support/made_studies.h"

namespace mileage {
namespace {

using testing::ElementsAre;

TEST(Groups, HaveTheSimplestVariantFirst) {
  made::Setting setting;
  setting.truths = {{"columns", [](double n) { return n; }}, {"objects", [](double n) { return n; }}};
  setting.counts = {1, 2};
  Study study = made::study_of(setting);
  std::swap(study.head.scenario.variants[0], study.head.scenario.variants[1]);
  const EvidenceSet evidence = gather_evidence(study);
  ASSERT_EQ(evidence.series.front().label, "columns");
  const std::vector<Group> groups = groups_among(evidence);
  ASSERT_EQ(groups.size(), 1U);
  EXPECT_EQ(groups[0].conditions, "");
  EXPECT_THAT(groups[0].members, ElementsAre(1U, 0U));
}

std::vector<double> shown(std::vector<std::int64_t> counts, std::vector<double> asked = {}) {
  made::Setting setting;
  setting.truths = {{"columns", [](double n) { return 1e-3 * n; }}, {"objects", [](double n) { return 2e-3 * n; }}};
  setting.counts = std::move(counts);
  const Study study = made::study_of(setting);
  Questions questions;
  questions.at = std::move(asked);
  return places_shown(analyse(study), questions);
}

TEST(Groups, PlacesShownAreAllThatWereMeasuredWhereThoseAreFew) {
  EXPECT_THAT(shown({50'000}), ElementsAre(50'000));
  EXPECT_THAT(shown({3, 7, 20, 90}), ElementsAre(3, 7, 20, 90));
}

TEST(Groups, PlacesShownAreElseUpToThreeRoundOnesThatWereReached) {
  EXPECT_THAT(shown({50, 400, 3000, 20'000, 150'000}), ElementsAre(1000, 10'000, 100'000));
  EXPECT_THAT(shown({50, 60, 90, 200, 700}), ElementsAre(100));
  EXPECT_THAT(shown({30, 40, 50, 60, 70}), ElementsAre(30, 70)) << "none is round";
  EXPECT_THAT(shown({50, 400, 3000, 20'000, 150'000}, {77}), ElementsAre(77)) << "asked for";
}

}  // namespace
}  // namespace mileage
