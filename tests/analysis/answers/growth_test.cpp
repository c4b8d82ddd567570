#include "analysis/answers/growth.h"

#include <cmath>
#include <vector>

#include <gtest/gtest.h>

#include "analysis/answers/known_truths.h"
#include "analysis/statistics/constants.h"

namespace mileage {
namespace {

SeriesGrowth growth_of(const std::function<double(double)>& truth, double bytes_each = 0) {
  Study study = made::study_of(made::setting_of({{"objects", truth}}, 0.01));
  study.head.machine.cache_bytes = {{"L1", 32e3}, {"L2", 1e6}};
  for (mileage::Run& run : study.runs)
    if (bytes_each > 0) {
      run.memory.empty_bytes = 1e6;
      run.memory.built_bytes = 1e6 + bytes_each * static_cast<double>(run.count);
    }
  const AnalysedStudy analysed(study);
  return growth_answer(analysed.analysis(), parts_answer(analysed.analysis())).series.front();
}

TEST(Growth, ALineHasALawAnExponentAndPoints) {
  const SeriesGrowth growth = growth_of(made::steep);
  ASSERT_FALSE(growth.names.empty());
  EXPECT_EQ(growth.names.front().kind, LawKind::linear);
  EXPECT_NEAR(growth.names.front().ms_at_1k.at(0), 0.1, 0.005);
  EXPECT_NEAR(*growth.exponent, 1, 0.02);
  EXPECT_LT(*growth.exponent_interval.low, 1);
  EXPECT_GT(*growth.exponent_interval.high, 1);
  EXPECT_NEAR(*growth.exponent_at_min, 1, 0.05);
  ASSERT_EQ(growth.points.size(), 12U);
  EXPECT_EQ(growth.points.front().runs, 6);
}

double fixed_ms_of(double fixed_ms) {
  const auto line = [&](double count) { return fixed_ms + 1e-4 * count; };
  const AnalysedStudy analysed(made::study_of(made::setting_of({{"objects", line}}, 1e-9)));
  return growth_answer(analysed.analysis(), parts_answer(analysed.analysis())).series.front().names.front().fixed_ms;
}

TEST(Growth, AFixedCostThatNobodyCouldSeeIsNone) {
  EXPECT_EQ(fixed_ms_of(5e-6), 0);
  EXPECT_NEAR(fixed_ms_of(5e-5), 5e-5, 1e-6);
}

double exponent_half_width(double slowdown) {
  Study study = made::study_of(made::setting_of({{"objects", made::steep}}, 0.01));
  study.head.full_speed_ns = 100;
  for (mileage::Run& run : study.runs)
    run.yardstick = YardstickReading{3, 200, 100 * slowdown, 100 * slowdown, 100 * slowdown};
  const AnalysedStudy analysed(study);
  const SeriesGrowth growth = growth_answer(analysed.analysis(), parts_answer(analysed.analysis())).series.front();
  return (*growth.exponent_interval.high - *growth.exponent_interval.low) / 2;
}

TEST(Growth, WhereSmallAndLargeCountsMayRespondUnlikeTheExponentIsWider) {
  EXPECT_GT(exponent_half_width(1.5), 2 * exponent_half_width(1));
}

TEST(Growth, AKneeNamesTheCacheThatIsFullThere) {
  const auto bent = [](double n) { return 1e-4 * n + (n > 10'000 ? 3e-4 * (n - 10'000) : 0); };
  const SeriesGrowth growth = growth_of(bent, 100);
  ASSERT_EQ(growth.knees.size(), 1U);
  const Knee& knee = growth.knees.front();
  EXPECT_NEAR(knee.at, 10'000, 1500);
  EXPECT_NEAR(*knee.slope_ratio(), 4, 0.6);
  EXPECT_EQ(knee.cache, "L2");
  EXPECT_LE(*knee.interval.low, knee.at);
  EXPECT_GE(*knee.interval.high, knee.at);
}

}  // namespace
}  // namespace mileage
