#include "analysis/curves/rough_curves.h"

#include <cmath>

#include <gtest/gtest.h>

#include "analysis/model/kernels.h"

namespace mileage {
namespace {

/// Two series, 1 and 0.4 us per entity, `blocks` runs at each of six counts.
std::vector<ModelRow> two_series(int blocks) {
  std::vector<ModelRow> rows;
  for (int block = 0; block < blocks; ++block)
    for (const double count : {1e3, 2e3, 4e3, 8e3, 16e3, 32e3})
      for (int series = 0; series < 2; ++series) {
        const double noise = 0.01 * std::sin(static_cast<double>(37 * rows.size()));
        ModelRow row;
        row.series = series;
        row.log_x = std::log(count);
        row.log_ms = std::log((series == 0 ? 1e-3 : 0.4e-3) * count) + noise;
        row.block = block;
        row.order = static_cast<double>(rows.size());
        rows.push_back(row);
      }
  return rows;
}

TEST(RoughCurves, FollowTheRuns) {
  const RoughCurves curves(two_series(4));
  EXPECT_TRUE(curves.knows(1));
  EXPECT_FALSE(curves.knows(2));
  EXPECT_NEAR(curves.log_ms(0, {std::log(6e3)}).front(), std::log(6), 0.02);
  EXPECT_NEAR(curves.log_ms(1, {std::log(6e3)}).front(), std::log(2.4), 0.02);
}

TEST(RoughCurves, KeepTheHyperparametersOfAPart) {
  const RoughCurves part(two_series(3));
  const RoughCurves all(two_series(4), &part);
  EXPECT_EQ(all.fitted_rows(), part.fitted_rows());
  EXPECT_NEAR(all.log_ms(0, {std::log(6e3)}).front(), std::log(6), 0.02);
}

TEST(RoughCurves, KnowTheGapOfAJump) {
  std::vector<ModelRow> rows = two_series(4);
  for (ModelRow& row : rows)
    if (row.series == 0 && row.log_x > std::log(6e3)) row.log_ms += 0.6;
  const RoughCurves curves(rows);
  const auto gap = curves.step_around(0, std::log(6e3));
  ASSERT_TRUE(gap);
  EXPECT_NEAR(gap->first, std::log(4e3), 1e-6);
  EXPECT_NEAR(gap->second, std::log(8e3), 1e-6);
  EXPECT_FALSE(curves.step_around(0, std::log(3e3)));
  EXPECT_FALSE(curves.step_around(1, std::log(6e3)));
}

TEST(RoughCurves, CostsAreBroughtToFullSpeedByTheUsualResponse) {
  DisturbanceFilter judge(100);
  mileage::Run run;
  run.samples_ns = {2'000'000};
  EXPECT_NEAR(fast_frame_ms(judge, run), 2, 1e-9) << "no probes";
  run.yardstick = YardstickReading{3, 20, 140, 140, 100};
  judge.add(run);
  EXPECT_NEAR(fast_frame_ms(judge, run), 2 * std::exp(-expected_response(std::log(1.4))), 1e-9);
}

class NarrowingTest : public testing::Test {
 protected:
  RoughCurves curves{two_series(4)};
  const double at = std::log(24e3);
  Contrast cost{at, 0};
  Contrast ratio{at, 0, 1, 1, -1};
};

TEST_F(NarrowingTest, MoreRunsMakeVariancesSmallerAsForeseen) {
  Narrowing narrowing(curves, {cost, ratio}, {{0, at}});
  const double before = narrowing.variance(0), gain = narrowing.gain(0, 0);
  EXPECT_GT(gain, 0);
  narrowing.take(0);
  EXPECT_NEAR(narrowing.variance(0), before - gain, 1e-12);
  EXPECT_LT(narrowing.gain(0, 0), gain) << "a second run there says less";
}

TEST_F(NarrowingTest, RunsNearByOfTheSameSeriesSayMost) {
  const Narrowing narrowing(curves, {cost}, {{0, at}, {0, std::log(1e3)}, {1, at}});
  EXPECT_GT(narrowing.gain(0, 0), narrowing.gain(0, 1));
  EXPECT_GT(narrowing.gain(0, 0), narrowing.gain(0, 2));
}

TEST_F(NarrowingTest, FarFromAllRunsLessIsKnown) {
  const Narrowing narrowing(curves, {cost, {std::log(200e3), 0}}, {});
  EXPECT_GT(narrowing.variance(1), 2 * narrowing.variance(0));
}

TEST_F(NarrowingTest, WeightsScaleTheVariance) {
  const Narrowing narrowing(curves, {cost, {at, 0, 2}}, {});
  EXPECT_NEAR(narrowing.variance(1), 4 * narrowing.variance(0), 1e-9);
}

}  // namespace
}  // namespace mileage
