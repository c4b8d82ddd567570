#include "analysis/answers/scaling.h"

#include <cmath>
#include <deque>
#include <random>

#include <gtest/gtest.h>

#include "analysis/curves/series_curve.h"

namespace mileage {
namespace {

constexpr double place = 1000;

/// 1 to 8 workers, a fifth serial, contention 2 %.
class WorkersScale : public testing::Test {
 protected:
  WorkersScale() { draw(0.003); }

  void draw(double log_sd) {
    std::mt19937_64 random(1);
    std::normal_distribution<double> normal;
    kept_.clear();
    curves_.clear();
    for (const double workers : {1.0, 2.0, 3.0, 4.0, 6.0, 8.0}) {
      Eigen::MatrixXd log_ms(1000, 1);
      for (double& one : log_ms.reshaped())
        one = std::log(0.2 + 0.8 / workers + 0.02 * (workers - 1)) + log_sd * normal(random);
      kept_.emplace_back(std::vector<double>{place}, std::vector<double>{std::log(place)}, log_ms);
      curves_.push_back({workers, &kept_.back()});
    }
  }

  std::deque<SeriesCurve> kept_;
  std::vector<WorkersCurve> curves_;
};

TEST_F(WorkersScale, TheSerialShareIsFound) {
  const Scaling scaling = scaling_of(curves_, place);
  EXPECT_EQ(scaling.values, 6U);
  EXPECT_NEAR(scaling.serial, 0.2, 0.02);
  EXPECT_NEAR(scaling.contention, 0.02, 0.005);
  EXPECT_EQ(scaling.useful_workers, 4);
  ASSERT_TRUE(scaling.serial_interval.closed());
  EXPECT_LT(*scaling.serial_interval.low, 0.2);
  EXPECT_GT(*scaling.serial_interval.high, 0.2);
  EXPECT_LT(*scaling.serial_interval.high - *scaling.serial_interval.low, 0.05);
}

TEST_F(WorkersScale, ThreeNumbersTellNoInterval) {
  curves_.resize(3);
  EXPECT_FALSE(scaling_of(curves_, place).serial_interval.low);
}

TEST_F(WorkersScale, OfTimesThatAreNotKnownAnyShareMayBeSerial) {
  draw(0.15);
  const Interval serial = scaling_of(curves_, place).serial_interval;
  EXPECT_EQ(*serial.low, 0);
  EXPECT_GT(*serial.high, 0.35);
  EXPECT_LT(*serial.high, 0.6);
}

}  // namespace
}  // namespace mileage
