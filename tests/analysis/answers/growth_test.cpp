#include "analysis/answers/growth.h"

#include <cmath>
#include <numeric>
#include <vector>

#include <gtest/gtest.h>

#include "analysis/answers/known_truths.h"
#include "analysis/statistics/constants.h"

namespace mileage {
namespace {

SeriesGrowth growth_of(const std::function<double(double)>& truth, bool with_errors = false, double bytes_each = 0) {
  Study study = made::study_of(made::setting_of({{"objects", truth}}, 0.01));
  study.head.machine.cache_bytes = {{"L1", 32e3}, {"L2", 1e6}};
  for (mileage::Run& run : study.runs)
    if (bytes_each > 0) {
      run.memory.empty_bytes = 1e6;
      run.memory.built_bytes = 1e6 + bytes_each * static_cast<double>(run.count);
    }
  const AnalysedStudy analysed(study);
  return growth_answer(analysed.analysis(), parts_answer(analysed.analysis()), with_errors).series.front();
}

TEST(Growth, ALineHasALawAnExponentAndPoints) {
  const SeriesGrowth growth = growth_of(made::steep);
  ASSERT_TRUE(growth.law);
  EXPECT_EQ(growth.law->kind, LawKind::linear);
  EXPECT_NEAR(growth.law->ms_at_1k.at(0), 0.1, 0.005);
  EXPECT_NEAR(*growth.exponent, 1, 0.02);
  EXPECT_LT(*growth.exponent_interval.low, 1);
  EXPECT_GT(*growth.exponent_interval.high, 1);
  EXPECT_NEAR(*growth.exponent_at_min, 1, 0.05);
  ASSERT_EQ(growth.points.size(), 12U);
  EXPECT_EQ(growth.points.front().runs, 6);
}

/// The fixed cost that is named of a line whose least cost is 0.01 ms.
double fixed_ms_of(double fixed_ms) {
  const auto line = [&](double count) { return fixed_ms + 1e-4 * count; };
  const AnalysedStudy analysed(made::study_of(made::setting_of({{"objects", line}}, 1e-9)));
  return growth_answer(analysed.analysis(), parts_answer(analysed.analysis()), false).series.front().law->fixed_ms;
}

TEST(Growth, AFixedCostThatNobodyCouldSeeIsNone) {
  EXPECT_EQ(fixed_ms_of(5e-6), 0);
  EXPECT_NEAR(fixed_ms_of(5e-5), 5e-5, 1e-6);
}

/// Half-width of the exponent of a line, on a machine that took this many times its remembered full speed throughout.
double exponent_half_width(double slowdown) {
  Study study = made::study_of(made::setting_of({{"objects", made::steep}}, 0.01));
  study.head.full_speed_ns = 100;
  for (mileage::Run& run : study.runs)
    run.yardstick = YardstickReading{3, 200, 100 * slowdown, 100 * slowdown, 100 * slowdown};
  const AnalysedStudy analysed(study);
  const SeriesGrowth growth =
      growth_answer(analysed.analysis(), parts_answer(analysed.analysis()), false).series.front();
  return (*growth.exponent_interval.high - *growth.exponent_interval.low) / 2;
}

TEST(Growth, WhereSmallAndLargeCountsMayFollowTheYardstickUnlikeTheExponentIsInDoubt) {
  std::vector<double> log_x;
  for (const CurvePoint& point : growth_of(made::steep).points) log_x.push_back(std::log(point.x));
  const double middle = std::accumulate(log_x.begin(), log_x.end(), 0.0) / static_cast<double>(log_x.size());
  double squares = 0, moved = 0;  // of the slope of a line through costs whose slopes differ as places do
  for (const double a : log_x) {
    squares += (a - middle) * (a - middle);
    for (const double b : log_x) {
      const double apart = (a - b) / std::log(slopes_alike_within);
      moved += (a - middle) * (b - middle) * std::exp(-apart * apart / 2);
    }
  }
  const double uncertainty = normal_95 * std::log(1.5) * place_slope_sd * std::sqrt(moved) / squares;
  const double plain = exponent_half_width(1);
  EXPECT_LT(plain, uncertainty / 2) << "hardly any, at full speed";
  EXPECT_NEAR(exponent_half_width(1.5), std::hypot(plain, uncertainty), 0.2 * uncertainty)
      << "a fixed cost gives way, too";
}

TEST(Growth, LeftOutErrorsAreComputedWhereAskedFor) {
  for (const TestedLaw& test : growth_of(made::steep).tests) EXPECT_FALSE(test.left_out_error);
  const auto tests = growth_of(made::steep, true).tests;
  ASSERT_FALSE(tests.empty());
  for (const TestedLaw& test : tests) EXPECT_TRUE(test.left_out_error);
}

TEST(Growth, AKneeNamesTheCacheThatIsFullThere) {
  const auto bent = [](double n) { return 1e-4 * n + (n > 10'000 ? 3e-4 * (n - 10'000) : 0); };
  const SeriesGrowth growth = growth_of(bent, false, 100);
  ASSERT_EQ(growth.knees.size(), 1U);
  const Knee& knee = growth.knees.front();
  EXPECT_NEAR(knee.at, 10'000, 1500);
  EXPECT_NEAR(*knee.slope_ratio(), 4, 0.6);
  EXPECT_EQ(knee.cache, "L2");
  EXPECT_LT(*knee.interval.low, *knee.interval.high);
}

}  // namespace
}  // namespace mileage
