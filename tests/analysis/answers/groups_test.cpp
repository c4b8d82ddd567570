#include "analysis/answers/groups.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/made_studies.h"

namespace mileage {
namespace {

using testing::ElementsAre;

TEST(Groups, HaveTheSimplestVariantFirst) {
  made::Setting setting;
  setting.truths = {{"columns", [](double n) { return n; }}, {"objects", [](double n) { return n; }}};
  setting.counts = {1, 2};
  Study study = made::study_of(setting);
  std::swap(study.head.scenario.variants[0], study.head.scenario.variants[1]);  // objects are the simplest
  const EvidenceSet evidence = gather_evidence(study);
  ASSERT_EQ(evidence.series.front().label, "columns");
  const std::vector<Group> groups = groups_among(evidence);
  ASSERT_EQ(groups.size(), 1U);
  EXPECT_EQ(groups[0].conditions, "");
  EXPECT_THAT(groups[0].members, ElementsAre(1U, 0U));
}

TEST(Groups, UsualPlacesAreTheLastThreeDecadesThatMostReach) {
  EXPECT_THAT(usual_places({150'000, 300'000, 5'000}), ElementsAre(1000, 10'000, 100'000));
  EXPECT_THAT(usual_places({1000}), ElementsAre(10, 100, 1000));
}

}  // namespace
}  // namespace mileage
