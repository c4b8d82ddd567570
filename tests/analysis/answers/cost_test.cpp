#include "analysis/answers/cost.h"

#include <gtest/gtest.h>

#include "analysis/answers/known_truths.h"

namespace mileage {
namespace {

/// Columns cost a quarter, and 30 ms to set up instead of 10.
CostAnswer costs_at(std::vector<double> places, double columns_setup_ms = 30) {
  Study study = made::study_of(
      made::setting_of({{"objects", made::steep}, {"columns", [](double n) { return made::steep(n) / 4; }}}, 0));
  for (Visit& visit : study.visits) visit.setup_ms = visit.series.variant == "columns" ? columns_setup_ms : 10;
  const AnalysedStudy analysed(study);
  Questions questions;
  questions.at = std::move(places);
  return cost_answer(analysed.analysis(), parts_answer(analysed.analysis()), questions);
}

TEST(Cost, IsHeldAgainstTheFirstSeriesOfTheGroup) {
  const CostAnswer answer = costs_at({10'000});
  const auto& costs = answer.groups.at(0).places.at(0).costs;
  EXPECT_NEAR(costs[0].cost->ms, 1, 1e-3);
  EXPECT_EQ(costs[0].share, 1);
  EXPECT_NEAR(costs[1].share, 0.25, 1e-3);
  EXPECT_NEAR(costs[1].saves_ms, 0.75, 1e-3);
}

TEST(Cost, ADearerSetUpIsEarnedBackInFrames) {
  const SeriesCost dearer = costs_at({10'000}).groups.at(0).places.at(0).costs[1];
  EXPECT_EQ(*dearer.setup_ms, 30);
  EXPECT_EQ(*dearer.payback_frames, 27) << "20 ms at 0.75 ms a frame";
  EXPECT_FALSE(costs_at({10'000}, 5).groups.at(0).places.at(0).costs[1].payback_frames) << "nothing to earn back";
}

TEST(Cost, IsNotKnownBeyondWhatWasMeasured) {
  EXPECT_FALSE(costs_at({1'000'000}).groups.at(0).places.at(0).costs[0].cost);
  EXPECT_EQ(costs_at({}).groups.at(0).places.size(), 3U) << "a few round counts where none was asked for";
}

}  // namespace
}  // namespace mileage
