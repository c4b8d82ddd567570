#include "analysis/statistics/slowdown_drift.h"

#include <cmath>
#include <limits>
#include <random>
#include <vector>

#include <gmock/gmock.h>

namespace mileage {
namespace {

constexpr int rows = 10;
constexpr int blocks = 8;

struct Table {
  Eigen::ArrayXXd log_ms{rows, blocks};
  Eigen::ArrayXXd order{rows, blocks};
};

/// Runs of block after block with a slowdown that wanders: correlation `kept` from one run to the next, standard
/// deviation `drift`, besides noise of 3 %.
Table table_with(double drift, double kept, std::uint64_t seed, double* mean_drift = nullptr) {
  std::mt19937_64 random(seed);
  std::normal_distribution<double> normal;
  Table table;
  double slowdown = drift * normal(random);
  double sum = 0;
  for (int block = 0; block < blocks; ++block)
    for (int row = 0; row < rows; ++row) {
      table.log_ms(row, block) = 0.7 * row + slowdown + 0.03 * normal(random);
      table.order(row, block) = 3 * (rows * block + row) + 7;
      sum += slowdown;
      slowdown = kept * slowdown + drift * std::sqrt(1 - kept * kept) * normal(random);
    }
  if (mean_drift != nullptr) *mean_drift = sum / (rows * blocks);
  return table;
}

TEST(SlowdownDrift, IsMostlyNoneWhereRunsAreIndependent) {
  int told = 0;
  for (std::uint64_t seed = 1; seed <= 200; ++seed) {
    const Table table = table_with(0, 0, seed);
    told += slowdown_drift_error(table.log_ms, table.order) > 0;
  }
  EXPECT_LT(told, 200 * 3 / 10);
}

TEST(SlowdownDrift, TellsHowFarADriftOfSeveralBlocksMovesTheSlowdown) {
  double error_squares = 0;
  double drift_squares = 0;
  constexpr int studies = 400;
  for (std::uint64_t seed = 1; seed <= studies; ++seed) {
    double moved = 0;
    const Table table = table_with(0.05, 0.9, seed, &moved);
    const double error = slowdown_drift_error(table.log_ms, table.order);
    error_squares += error * error;
    drift_squares += moved * moved;
  }
  // Blocks already show about half of the variance; the other half is what is asked for.
  EXPECT_GT(error_squares, 0.2 * drift_squares);
  EXPECT_LT(error_squares, 1.0 * drift_squares);
}

TEST(SlowdownDrift, GoesByTheOrderOfRuns) {
  Table table = table_with(0.05, 0.97, 5);
  const double in_order = slowdown_drift_error(table.log_ms, table.order);
  std::mt19937_64 random(6);
  for (int block = 0; block < blocks; ++block)
    for (int row = 0; row < rows; ++row) table.order(row, block) = static_cast<double>(random() % 1'000'000);
  EXPECT_GT(in_order, 0.005);
  EXPECT_LT(slowdown_drift_error(table.log_ms, table.order), in_order / 2);
}

TEST(SlowdownDrift, SaysNothingOfTwoBlocks) {
  const Table table = table_with(0.05, 0.97, 5);
  EXPECT_EQ(slowdown_drift_error(table.log_ms.leftCols(2), table.order.leftCols(2)), 0);
}

TEST(SlowdownDrift, LeavesHolesOut) {
  Table table = table_with(0.05, 0.97, 5);
  const double whole = slowdown_drift_error(table.log_ms, table.order);
  table.log_ms(3, 2) = std::numeric_limits<double>::quiet_NaN();
  table.log_ms(8, 6) = std::numeric_limits<double>::quiet_NaN();
  EXPECT_NEAR(slowdown_drift_error(table.log_ms, table.order), whole, 0.3 * whole);
}

}  // namespace
}  // namespace mileage
