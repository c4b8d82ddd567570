#include "analysis/curves/rough_costs.h"

#include <cmath>

#include <gtest/gtest.h>

#include "analysis/model/kernels.h"

namespace mileage {
namespace {

std::map<std::int64_t, RoughPoint> jumping(int runs, double times) {
  std::map<std::int64_t, RoughPoint> points;
  for (const std::int64_t count : {4000, 5000, 6000, 7000, 8000, 9000})
    points[count] = {1e-3 * static_cast<double>(count) * (count < 6500 ? 1 : times), runs};
  return points;
}

TEST(RoughCosts, AStepIsTheGapInWhichTheLevelIsJumpedOver) {
  const auto gap = step_through(8, jumping(2, 1.8));
  ASSERT_TRUE(gap);
  EXPECT_NEAR(*gap->low, 6000, 1e-6);
  EXPECT_NEAR(*gap->high, 7000, 1e-6);
}

TEST(RoughCosts, AStepIsNoneWhereTheLevelIsPassedBesideItOrRunsScatterSoMuch) {
  EXPECT_FALSE(step_through(5.5, jumping(2, 1.8)));
  EXPECT_FALSE(step_through(13.5, jumping(2, 1.8)));
  EXPECT_FALSE(step_through(6.2, jumping(2, 1.03)));
  EXPECT_FALSE(step_through(8, jumping(1, 1.8))) << "a single run may be a spike";
}

TEST(RoughCosts, AreAtFullSpeedByTheUsualResponse) {
  DisturbanceFilter judge(100);
  mileage::Run run;
  run.samples_ns = {2'000'000};
  EXPECT_NEAR(rough_fast_ms(judge, run), 2, 1e-9) << "no probes";
  EXPECT_EQ(rough_fast_sd(judge, run), 0);
  run.yardstick = YardstickReading{3, 20, 140, 140, 100};
  judge.add(run);
  EXPECT_NEAR(rough_fast_ms(judge, run), 2 * std::exp(-expected_response(std::log(1.4))), 1e-9);
  EXPECT_GT(rough_fast_sd(judge, run), 0.03);
}

}  // namespace
}  // namespace mileage
