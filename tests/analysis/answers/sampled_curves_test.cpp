#include "analysis/answers/sampled_curves.h"

#include <cmath>

#include <gtest/gtest.h>

#include "analysis/answers/known_truths.h"

namespace mileage {
namespace {

TEST(SampledCurves, GoFromTheFirstCountToTheLastAtEqualRatios) {
  const AnalysedStudy study(made::study_of(made::setting_of({{"objects", made::steep}}, 0.01)));
  const auto curves = sampled_curves(study.analysis(), 10);
  ASSERT_EQ(curves.size(), 1U);
  ASSERT_EQ(curves[0].size(), 11U);
  EXPECT_DOUBLE_EQ(curves[0].front().x, 100);
  EXPECT_NEAR(curves[0].back().x, 400'000, 1e-6);
  for (std::size_t i = 1; i < curves[0].size(); ++i)
    EXPECT_NEAR(curves[0][i].x / curves[0][i - 1].x, std::pow(4000, 0.1), 1e-9);
  for (const SampledPoint& point : curves[0]) {
    EXPECT_NEAR(point.ms / made::steep(point.x), 1, 0.05);
    EXPECT_LT(*point.interval.low, point.ms);
    EXPECT_GT(*point.interval.high, point.ms);
  }
}

}  // namespace
}  // namespace mileage
