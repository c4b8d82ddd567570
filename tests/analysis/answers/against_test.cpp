#include "analysis/answers/against.h"

#include <gtest/gtest.h>

#include "analysis/answers/known_truths.h"
#include "types/error.h"

namespace mileage {
namespace {

std::vector<SeriesAgainst> against(const std::string& variant) {
  const AnalysedStudy study(made::study_of(
      made::setting_of({{"objects", made::steep}, {"columns", [](double n) { return made::steep(n) / 4; }}}, 0)));
  return against_answer(study.analysis(), variant);
}

TEST(Against, HoldsAllOthersAgainstOneVariantAtEveryCount) {
  const auto held = against("objects");
  ASSERT_EQ(held.size(), 1U);
  EXPECT_EQ(held[0].series, 1U);
  EXPECT_EQ(held[0].against, 0U);
  ASSERT_EQ(held[0].places.size(), 12U);
  for (const auto& place : held[0].places) {
    EXPECT_NEAR(place.share, 0.25, 1e-3);
    EXPECT_NEAR(place.saves_ms, 0.75 * made::steep(place.x), 1e-3 * made::steep(place.x));
  }
}

TEST(Against, NobodyUnlessAVariantIsNamed) {
  EXPECT_TRUE(against("").empty());
  EXPECT_THROW(against("colums"), Error);
}

}  // namespace
}  // namespace mileage
