#include "analysis/answers/cost.h"

#include <gtest/gtest.h>

#include "analysis/answers/known_truths.h"

namespace mileage {
namespace {

/// Columns cost a quarter, with 30 instead of 10 ms of set-up.
CostAnswer costs_at(std::vector<double> places, double columns_setup_ms = 30) {
  Study study = made::study_of(
      made::setting_of({{"objects", made::steep}, {"columns", [](double n) { return made::steep(n) / 4; }}}, 0));
  for (mileage::Run& run : study.runs) run.setup_ms = run.series.variant == "columns" ? columns_setup_ms : 10;
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
  const SeriesCost slower = costs_at({10'000}).groups.at(0).places.at(0).costs[1];
  EXPECT_EQ(*slower.setup_ms, 30);
  EXPECT_EQ(*slower.payback_frames, 27) << "20 ms at 0.75 ms a frame";
  EXPECT_FALSE(costs_at({10'000}, 5).groups.at(0).places.at(0).costs[1].payback_frames) << "nothing to earn back";
}

TEST(Cost, TraitsAreOfAPlaceWhereMostWereMeasuredAndScaledToIt) {
  Study study = made::study_of(
      made::setting_of({{"objects", made::steep}, {"columns", [](double n) { return made::steep(n) / 4; }}}, 0));
  for (mileage::Run& run : study.runs) {
    const double frames = static_cast<double>(run.measured_frames());
    run.counters["updates"] = static_cast<double>(run.count) * frames;
    if (run.series.variant == "columns") run.counters["batches"] = 3 * frames;
    run.setup_ms = 5;
  }
  const AnalysedStudy analysed(study);
  Questions questions;
  questions.at = {10'000, 9e6};
  const GroupCosts group = cost_answer(analysed.analysis(), parts_answer(analysed.analysis()), questions).groups.at(0);
  EXPECT_EQ(group.traits_at, 10'000) << "nothing was measured near nine million";
  ASSERT_EQ(group.traits.size(), 1U) << "both update all, and take as long to set up";
  EXPECT_EQ(group.traits[0].name, "counter batches");
  EXPECT_FALSE(group.traits[0].values[0]);
  EXPECT_TRUE(group.traits[0].is_known[0]);
  EXPECT_NEAR(*group.traits[0].values[1], 3, 0.8);
}

TEST(Cost, FitsTheBudgetWhereItsIntervalDoes) {
  Questions questions;
  questions.at = {10'000};
  Study study = made::study_of(
      made::setting_of({{"objects", made::steep}, {"columns", [](double n) { return made::steep(n) / 4; }}}, 0.02));
  const AnalysedStudy analysed(study);
  const auto fits_of = [&](double budget_ms) {
    questions.budgets_ms = {budget_ms};
    std::vector<Fit> fits;
    const CostAnswer answer = cost_answer(analysed.analysis(), parts_answer(analysed.analysis()), questions);
    for (const SeriesCost& one : answer.groups.at(0).places.at(0).costs) fits.push_back(one.fit);
    return fits;
  };
  EXPECT_EQ(fits_of(2), (std::vector<Fit>{Fit::fits, Fit::fits}));
  EXPECT_EQ(fits_of(0.5), (std::vector<Fit>{Fit::over, Fit::fits}));
  EXPECT_EQ(fits_of(1), (std::vector<Fit>{Fit::inconclusive, Fit::fits})) << "just what it takes";
}

TEST(Cost, IsNotKnownBeyondWhatWasMeasured) {
  EXPECT_FALSE(costs_at({1'000'000}).groups.at(0).places.at(0).costs[0].cost);
  EXPECT_EQ(costs_at({}).groups.at(0).places.size(), 3U) << "a few round counts where none was asked for";
}

/// 3x from 60,000, with counts close on both sides.
TEST(Cost, AtAMeasuredCountIsTheOneThatWasMeasured) {
  made::Setting setting;
  const auto jumping = [](double n) { return 1e-4 * n * (n < 60'000 ? 1 : 3); };
  setting.truths = {{"plain", jumping}, {"packed", [](double n) { return 2e-4 * n; }}};
  setting.counts = {10'000, 30'000, 57'000, 59'000, 60'000, 62'000, 90'000, 150'000};
  setting.blocks = 6;
  setting.run_noise = 0.01;
  const Study study = made::study_of(setting);
  const AnalysedStudy analysed(study);
  Questions questions;
  for (const std::int64_t count : setting.counts) questions.at.push_back(static_cast<double>(count));
  const CostAnswer answer = cost_answer(analysed.analysis(), parts_answer(analysed.analysis()), questions);
  for (const PlaceCosts& place : answer.groups.at(0).places) {
    const SeriesCost& plain = place.costs.at(0);
    EXPECT_NEAR(plain.cost->ms / jumping(place.x), 1, 0.03) << place.x;
    EXPECT_LT(*plain.cost->interval.low, jumping(place.x) * 1.01) << place.x;
    EXPECT_GT(*plain.cost->interval.high, jumping(place.x) * 0.99) << place.x;
    EXPECT_NEAR(place.costs.at(1).share * jumping(place.x) / (2e-4 * place.x), 1, 0.04) << place.x;
  }
}

}  // namespace
}  // namespace mileage
