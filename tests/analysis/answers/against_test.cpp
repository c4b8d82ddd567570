#include "analysis/answers/against.h"

#include <gtest/gtest.h>

#include "analysis/answers/known_truths.h"

namespace mileage {
namespace {

std::vector<SeriesAgainst> against(const Questions& questions) {
  const AnalysedStudy study(made::study_of(
      made::setting_of({{"objects", made::steep}, {"columns", [](double n) { return made::steep(n) / 4; }}}, 0)));
  return against_answer(study.analysis(), questions);
}

TEST(Against, ComparesAllOthersWithTheFirstAtEveryCount) {
  const auto held = against({});
  ASSERT_EQ(held.size(), 1U);
  EXPECT_EQ(held[0].series, 1U);
  EXPECT_EQ(held[0].against, 0U);
  ASSERT_EQ(held[0].places.size(), 12U);
  for (const auto& place : held[0].places) {
    EXPECT_NEAR(place.share, 0.25, 1e-3);
    EXPECT_NEAR(place.saves_ms, 0.75 * made::steep(place.x), 1e-3 * made::steep(place.x));
  }
}

TEST(Against, ComparesWithTheBaselineAtTheCountsAskedFor) {
  Questions questions;
  questions.baseline = "columns";
  questions.at = {5000, 1e9};
  const auto held = against(questions);
  ASSERT_EQ(held.size(), 1U);
  EXPECT_EQ(held[0].against, 1U);
  ASSERT_EQ(held[0].places.size(), 1U) << "no count beyond those measured";
  EXPECT_NEAR(held[0].places[0].share, 4, 0.01);
}

}  // namespace
}  // namespace mileage
