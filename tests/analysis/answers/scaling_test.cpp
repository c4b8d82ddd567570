#include "analysis/answers/scaling.h"

#include <cmath>
#include <deque>

#include <gtest/gtest.h>

#include "analysis/curves/curve.h"
#include "analysis/statistics/statistics.h"

namespace mileage {
namespace {

constexpr double place = 1000;

/// Times of 1, 2, 3, 4, 6 and 8 workers, a fifth of them serial, each more costing the others 2 %.
class WorkersScale : public testing::Test {
 protected:
  /// `slowdown`: of the machine, log scale, that no run tells a slope from.
  explicit WorkersScale(double slowdown = 0) {
    for (const double workers : {1.0, 2.0, 3.0, 4.0, 6.0, 8.0}) {
      Eigen::ArrayXXd log_ms(1, 6);
      for (Eigen::Index block = 0; block < 6; ++block)
        log_ms(0, block) = std::log(0.2 + 0.8 / workers + 0.02 * (workers - 1)) +
                           0.003 * std::sin(workers + 2 * static_cast<double>(block));
      kept_.push_back(fit_series({place}, 6, [&](std::optional<Eigen::Index> block) {
        Eigen::ArrayXXd rest = log_ms;
        if (block) rest.col(*block) = NAN;
        return CostTable{rest, {}};
      }));
      kept_.back().places = {place};
      kept_.back().adjustment.cost_covariance = Eigen::MatrixXd::Constant(1, 1, 0.25 * slowdown * 0.25 * slowdown);
      curves_.push_back({workers, &kept_.back()});
    }
  }

  std::deque<SeriesCurve> kept_;
  std::vector<WorkersCurve> curves_;
};

class WorkersScaleOnABusyMachine : public WorkersScale {
 protected:
  WorkersScaleOnABusyMachine() : WorkersScale(0.4) {}
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

TEST_F(WorkersScale, TheIntervalIsWhatBlocksShowByStudentsT) {
  std::vector<double> leave_one_out;
  for (std::size_t block = 0; block < 6; ++block) {
    std::deque<SeriesCurve> rest = kept_;
    std::vector<WorkersCurve> curves = curves_;
    for (std::size_t i = 0; i < rest.size(); ++i) {
      rest[i].all = rest[i].leave_one_out[block];
      curves[i].curve = &rest[i];
    }
    leave_one_out.push_back(scaling_of(curves, place).serial);
  }
  const Interval serial = scaling_of(curves_, place).serial_interval;
  const double expected = t_factor(6) * jackknife_error(leave_one_out);
  EXPECT_NEAR((*serial.high - *serial.low) / 2 / expected, 1, 0.15);
}

TEST_F(WorkersScale, ThreeNumbersTellNoInterval) {
  curves_.resize(3);
  EXPECT_FALSE(scaling_of(curves_, place).serial_interval.low);
}

TEST_F(WorkersScaleOnABusyMachine, AnyShareMayBeSerial) {
  const Interval serial = scaling_of(curves_, place).serial_interval;
  EXPECT_EQ(*serial.low, 0);
  EXPECT_GT(*serial.high, 0.35);
  EXPECT_LT(*serial.high, 0.5);
}

}  // namespace
}  // namespace mileage
