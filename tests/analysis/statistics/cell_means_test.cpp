#include "analysis/statistics/cell_means.h"

#include <cmath>
#include <functional>
#include <limits>
#include <random>

#include <gtest/gtest.h>

namespace mileage {
namespace {

constexpr double hole = std::numeric_limits<double>::quiet_NaN();

Eigen::ArrayXXd noisy_table(double deviation, std::uint64_t seed) {
  std::mt19937_64 random(seed);
  std::normal_distribution<double> normal(0, deviation);
  Eigen::ArrayXXd table(10, 6);
  for (Eigen::Index i = 0; i < table.rows(); ++i)
    for (Eigen::Index j = 0; j < table.cols(); ++j)
      table(i, j) = static_cast<double>(i) + 0.1 * static_cast<double>(j) + normal(random);
  return table;
}

TEST(CellMeans, AreMeansOverBlocksWhereThereIsNothingToClip) {
  Eigen::ArrayXXd table(3, 2);
  table << 1, 3, 2, 4, 5, 7;
  const CellMeans means = cell_means(table);
  EXPECT_NEAR(means.log_ms(0), 2, 1e-9);
  EXPECT_NEAR(means.log_ms(2), 6, 1e-9);
  EXPECT_EQ(means.runs(1), 2);
}

TEST(CellMeans, AHoleDoesNotBorrowTheSlowdownOfItsBlock) {
  Eigen::ArrayXXd table(3, 3);
  table << 1, 2, 3, 2, 3, hole, 4, 5, 6;  // row + block without noise
  const CellMeans means = cell_means(table);
  EXPECT_NEAR(means.log_ms(1) - means.log_ms(0), 1, 1e-8);
  EXPECT_NEAR(means.log_ms(2) - means.log_ms(0), 3, 1e-8);
  EXPECT_EQ(means.runs(1), 2);
}

TEST(CellMeans, ARowWithoutRunsStaysEmpty) {
  Eigen::ArrayXXd table(2, 2);
  table << 1, 2, hole, hole;
  EXPECT_TRUE(std::isnan(cell_means(table).log_ms(1)));
}

TEST(CellMeans, ASpikedRunPullsLittle) {
  const Eigen::ArrayXXd calm = noisy_table(0.01, 5);
  Eigen::ArrayXXd spiked = calm;
  spiked(4, 2) += 3;
  const double pull = cell_means(spiked).log_ms(4) - cell_means(calm).log_ms(4);
  EXPECT_LT(std::fabs(pull), 0.02);  // the plain mean would move by 0.5
}

TEST(CellMeans, ASpikeAtASinglePlacePullsLittleToo) {
  Eigen::ArrayXXd one_place(1, 8);
  one_place << 0, 0.01, -0.01, 0.02, -0.02, 0.01, -0.01, 0.7;
  const CellMeans means = cell_means(one_place);
  EXPECT_LT(std::fabs(means.log_ms(0)), 0.02) << "the plain mean is 0.09";
  EXPECT_EQ(means.noise.degrees_of_freedom, 7) << "no block is told from its run";
  EXPECT_LT(std::sqrt(means.noise.variance), 0.05) << "0.25 with the spike";
}

TEST(CellMeans, DoNotDependOnTheOrderOfBlocks) {
  const Eigen::ArrayXXd table = noisy_table(0.05, 9);
  const Eigen::ArrayXXd turned = table.rowwise().reverse();
  EXPECT_LT((cell_means(table).log_ms - cell_means(turned).log_ms).abs().maxCoeff(), 1e-9);
}

TEST(CellMeans, ARowOfFewRunsWeighsLessWhereThereAreSpikes) {
  Eigen::ArrayXXd table = noisy_table(0.01, 5);
  table.row(7).tail(4).setConstant(hole);
  EXPECT_EQ(cell_means(table).runs(7), 2);
  const double weight_without_spikes = cell_means(table).weight(7);
  table(1, 1) += 0.5;
  table(4, 2) += 0.7;
  const CellMeans means = cell_means(table);
  EXPECT_LT(means.weight(7), 0.2 * weight_without_spikes) << "it may itself be a spike";
  EXPECT_EQ(means.weight(4), 6);
}

TEST(NoiseOfMeans, IsTheResidualMeanSquareWhereThereIsNothingToClip) {
  Eigen::ArrayXXd table(2, 2);
  table << 0, 0, 0, 0.4;  // residuals of the additive model: 0.1 each
  const Noise noise = cell_means(table).noise;
  EXPECT_EQ(noise.degrees_of_freedom, 1);
  EXPECT_NEAR(noise.variance, 0.04, 1e-9);
}

TEST(NoiseOfMeans, FindsTheNoiseAndIsBlindToSlowdowns) {
  const Noise noise = cell_means(noisy_table(0.05, 21)).noise;
  EXPECT_EQ(noise.degrees_of_freedom, 45);
  EXPECT_NEAR(std::sqrt(noise.variance), 0.05, 0.015);
}

TEST(NoiseOfMeans, OfASingleBlockIsUnknown) {
  EXPECT_EQ(cell_means(Eigen::ArrayXXd::Ones(5, 1)).noise.degrees_of_freedom, 0);
}

/// Variance of the means of a table about their slowdowns, times its number of blocks, over the noise that it tells;
/// over many tables. `deviation` of a row and a share of spikes.
double told_too_little(const std::function<double(Eigen::Index)>& deviation, double spikes) {
  std::mt19937_64 random(3);
  std::normal_distribution<double> normal;
  std::uniform_real_distribution<double> uniform;
  double variance = 0;
  double told = 0;
  for (int study = 0; study < 300; ++study) {
    Eigen::ArrayXXd table(16, 6);
    for (Eigen::Index block = 0; block < table.cols(); ++block)
      for (Eigen::Index row = 0; row < table.rows(); ++row)
        table(row, block) =
            deviation(row) * normal(random) + (uniform(random) < spikes ? 0.3 + 0.4 * uniform(random) : 0.0);
    const CellMeans means = cell_means(table);
    variance += (means.log_ms - means.log_ms.mean()).square().sum() / 15 * 6;
    told += means.noise.variance;
  }
  return variance / told;
}

TEST(NoiseOfMeans, IsThatOfTheMeansWithSpikesAndWithUnevenRows) {
  EXPECT_NEAR(told_too_little([](Eigen::Index) { return 0.04; }, 0), 1, 0.15);
  EXPECT_NEAR(told_too_little([](Eigen::Index) { return 0.04; }, 0.05), 1, 0.2);
  EXPECT_NEAR(told_too_little([](Eigen::Index row) { return row < 8 ? 0.08 : 0.02; }, 0), 1, 0.2);
}

}  // namespace
}  // namespace mileage
