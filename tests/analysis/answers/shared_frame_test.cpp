#include "analysis/answers/shared_frame.h"

#include <gtest/gtest.h>

#include "analysis/analysis.h"
#include "analysis/answers/known_truths.h"
#include "types/error.h"

namespace mileage {
namespace {

AnalysedStudy study_of(double ms_each, std::uint64_t seed, double noise = 0.01) {
  made::Setting setting = made::setting_of({{"plain", [ms_each](double n) { return ms_each * n; }}}, noise);
  setting.seed = seed;
  return AnalysedStudy(made::study_of(setting));
}

constexpr double budget = 1000.0 / 60;

SharedFrameAnswer beside(const AnalysedStudy& own, const AnalysedStudy& other, std::optional<double> at) {
  return shared_frame_answer(own.analysis(), other.analysis(), {"plain", at}, {});
}

TEST(SharedFrame, TheOtherSystemsCostIsTakenOffTheBudget) {
  const AnalysedStudy own = study_of(1e-4, 1), other = study_of(2e-4, 2);
  const SharedFrameAnswer answer = beside(own, other, 30'000);
  ASSERT_EQ(answer.series.size(), 1U);
  ASSERT_TRUE(answer.series[0].asked);
  EXPECT_NEAR(answer.series[0].asked->other.ms, 6, 0.2);
  const Capacity& capacity = answer.series[0].asked->capacity;
  EXPECT_NEAR(*capacity.at, (budget - 6) / 1e-4, 4000);
  ASSERT_TRUE(capacity.interval.closed());
  EXPECT_LT(*capacity.interval.low, *capacity.at);
  EXPECT_GT(*capacity.interval.high, *capacity.at);
}

TEST(SharedFrame, TheMapFallsAndEndsWhereTheOtherFillsTheFrame) {
  const AnalysedStudy own = study_of(1e-4, 1), other = study_of(2e-4, 2);
  const auto answer = beside(own, other, {});
  const auto& map = answer.series.at(0).map;
  ASSERT_GE(map.size(), 5U);
  EXPECT_LT(map.size(), 9U) << "from 83,333 on the other one takes all of it";
  for (std::size_t i = 1; i < map.size(); ++i)
    if (map[i].capacity.at && map[i - 1].capacity.at) EXPECT_LE(*map[i].capacity.at, *map[i - 1].capacity.at * 1.01);
  EXPECT_FALSE(answer.series[0].asked) << "no place was asked for";
}

TEST(SharedFrame, TheLargerCostIsWorthImprovingFirst) {
  const AnalysedStudy own = study_of(1e-4, 1), other = study_of(2e-4, 2);
  const Improvement few = *beside(own, other, 5'000).series[0].improve;
  EXPECT_GT(*few.own_halved, *few.other_halved) << "the other one takes 1 ms of 16.7";
  const Improvement many = *beside(own, other, 70'000).series[0].improve;
  EXPECT_LT(*many.own_halved, *many.other_halved) << "14 ms of 16.7";
  EXPECT_NEAR(*many.now, (budget - 14) / 1e-4, 4000);
}

TEST(SharedFrame, APlaceBeyondWhatWasMeasuredIsRefused) {
  const AnalysedStudy own = study_of(1e-4, 1), other = study_of(2e-4, 2);
  EXPECT_THROW(beside(own, other, 9e9), Error);
}

TEST(SharedFrame, IntervalsHoldTheTruthOfBoth) {
  int held = 0;
  constexpr int studies = 20;
  for (std::uint64_t seed = 1; seed <= studies; ++seed) {
    const AnalysedStudy own = study_of(1e-4, seed, 0.04), other = study_of(2e-4, seed + 500, 0.04);
    const auto asked = beside(own, other, 30'000).series[0].asked;
    const double truth = (budget - 6) / 1e-4;
    held += *asked->capacity.interval.low <= truth && truth <= *asked->capacity.interval.high;
  }
  EXPECT_GE(held, 18);
}

}  // namespace
}  // namespace mileage
