#include "analysis/statistics/level_adjustment.h"

#include <cmath>
#include <limits>
#include <random>

#include <gtest/gtest.h>

#include "analysis/statistics/constants.h"

namespace mileage {
namespace {

/// A made-up series: costs 1, 2, 3 ... ms by row, times what the machine's level does to them by a known slope.
struct Made {
  Eigen::ArrayXXd log_ms;
  LevelTables levels;
};

/// `levels_apart`: standard deviation of the levels. `chance`: of each half of the probes about them. `seen`: share of
/// the chance that frames see too, since they run beside the probes.
Made made(double slope, double levels_apart, double chance = 0, Eigen::Index blocks = 12, double mean_level = 0.2,
          Eigen::Index rows = 6, double seen = 0) {
  std::mt19937 random(7);
  std::normal_distribution<double> normal;
  Made all{Eigen::ArrayXXd(rows, blocks),
           {Eigen::ArrayXXd(rows, blocks), Eigen::ArrayXXd(rows, blocks), Eigen::ArrayXXd(rows, blocks)}};
  for (Eigen::Index row = 0; row < rows; ++row)
    for (Eigen::Index block = 0; block < blocks; ++block) {
      const double level = mean_level + levels_apart * normal(random);
      all.levels.one_half(row, block) = level + chance * normal(random);
      all.levels.other_half(row, block) = level + chance * normal(random);
      const double by_chance = (all.levels.one_half(row, block) + all.levels.other_half(row, block)) / 2 - level;
      all.log_ms(row, block) =
          std::log(1.0 + static_cast<double>(row)) + slope * (level + seen * by_chance) + 0.02 * normal(random);
    }
  all.levels.level = (all.levels.one_half + all.levels.other_half) / 2;
  return all;
}

double mean_error(const Made& one, const LevelAdjustment& adjustment) {
  const Eigen::ArrayXd rows = adjustment.at_fast_level(one.log_ms).rowwise().mean();
  double error = 0;
  for (Eigen::Index row = 0; row < rows.size(); ++row)
    error += (rows(row) - std::log(1.0 + static_cast<double>(row))) / static_cast<double>(rows.size());
  return error;
}

TEST(LevelAdjustment, FindsTheSlopeAndBringsCostsToTheFastLevel) {
  for (const double slope : {0.3, 0.6, 1.0}) {
    const Made one = made(slope, 0.15);
    const LevelAdjustment adjustment = adjustment_of(one.log_ms, one.levels);
    EXPECT_NEAR(adjustment.slope, slope, 0.05);
    EXPECT_GT(adjustment.trust, 0.9);
    EXPECT_NEAR(mean_error(one, adjustment), 0, 0.015);
    EXPECT_NEAR(adjustment.taken_off(), 1 - std::exp(-slope * 0.2), 0.05);
  }
}

TEST(LevelAdjustment, KeepsToWhatIsUsualWhereLevelsHardlyDiffer) {
  const Made one = made(1.0, 0.0005);
  const LevelAdjustment adjustment = adjustment_of(one.log_ms, one.levels);
  EXPECT_NEAR(adjustment.slope, slope_prior, 0.1);
  EXPECT_LT(adjustment.trust, 0.1);
  EXPECT_GT(adjustment.slower_deviation(0, 0, 0.2), 0.2 * 0.2) << "the doubt says so";
}

/// What a neighbour on the core does to frames: by one slope as long as his share of the time grows, and by another one
/// beyond that.
Made beside_a_neighbour(double below_bend, double beyond_bend, double mean_level, double levels_apart) {
  Made one = made(0, levels_apart, 0, 12, mean_level);
  one.log_ms += below_bend * one.levels.level.min(0.4) + beyond_bend * (one.levels.level - 0.4).max(0.0);
  return one;
}

TEST(LevelAdjustment, FindsTheBendWhereRunsLieOnEitherSide) {
  const Made one = beside_a_neighbour(1.0, 0.2, 0.4, 0.2);
  const LevelAdjustment adjustment = adjustment_of(one.log_ms, one.levels);
  EXPECT_NEAR(adjustment.below_bend(0), 1.0, 0.06);
  EXPECT_NEAR(adjustment.beyond_bend(0), 0.2, 0.06);
  EXPECT_GT(adjustment.trust, 0.9);
  EXPECT_LT(adjustment.slower_deviation(0, 0.2, 0.6), 0.02);
  EXPECT_NEAR(mean_error(one, adjustment), 0, 0.015);
  EXPECT_NEAR(adjustment.log_slower_at(0, 0.3), 0.3, 0.02);
  EXPECT_NEAR(adjustment.log_slower_at(0, 0.6), 0.4 + 0.2 * 0.2, 0.03);
}

TEST(LevelAdjustment, TheBendLiesOffAStraightLineAsFarAsItIsTold) {
  LevelAdjustment adjustment;
  adjustment.below_bend = Eigen::ArrayXd::Constant(1, 1);
  adjustment.beyond_bend = Eigen::ArrayXd::Constant(1, 0.2);
  EXPECT_NEAR(adjustment.log_bent_between(0, 0.8), 0.4 - 0.48 / 2, 1e-12);
  EXPECT_NEAR(adjustment.log_bent_between(0.2, 0.8), 0.4 - (0.2 + 0.28 / 3), 1e-12);
  EXPECT_EQ(adjustment.log_bent_between(0, 0.4), 0);
  EXPECT_EQ(adjustment.log_bent_between(0.4, 0.8), 0);
  adjustment.bend_deviation = 0.4;
  EXPECT_NEAR(adjustment.log_bent_between(0, 0.8), 0.08, 1e-12) << "half of it may be chance";
  adjustment.bend_deviation = 1;
  EXPECT_EQ(adjustment.log_bent_between(0, 0.8), 0);
}

TEST(LevelAdjustment, RunsBeyondTheBendTellNothingOfTheWayBelowIt) {
  const Made one = beside_a_neighbour(1.0, 0.2, 0.65, 0.06);
  const LevelAdjustment adjustment = adjustment_of(one.log_ms, one.levels);
  EXPECT_NEAR(adjustment.beyond_bend(0), 0.2, 0.1);
  EXPECT_NEAR(adjustment.below_bend(0), slope_prior, 0.1);
  const double doubt = std::sqrt(adjustment.cost_covariance(0, 0));
  EXPECT_GT(doubt, 0.4 * slope_prior_deviation) << "of the way below the bend";
  EXPECT_GT(adjustment.slower_deviation(0, 0.1, 0.3), 2 * adjustment.slower_deviation(0, 0.5, 0.7));
  EXPECT_LT(doubt, 0.4 * std::hypot(slope_prior_deviation, place_slope_deviation));
  EXPECT_LT(std::fabs(mean_error(one, adjustment)), 1.96 * doubt);
}

/// Places a factor of ten apart, the slope falling by 0.15 from each to the next.
Made unlike_along_the_axis() {
  Made one = made(0, 0.15);
  one.levels.log_x = Eigen::ArrayXd::LinSpaced(6, std::log(100), std::log(1e7));
  for (Eigen::Index row = 0; row < 6; ++row)
    one.log_ms.row(row) += (1.2 - 0.15 * static_cast<double>(row)) * one.levels.level.row(row);
  return one;
}

TEST(LevelAdjustment, SlopesMayDifferAlongTheAxis) {
  Made one = unlike_along_the_axis();
  const LevelAdjustment adjustment = adjustment_of(one.log_ms, one.levels);
  for (Eigen::Index row = 0; row < 6; ++row)
    EXPECT_NEAR(adjustment.below_bend(row), 1.2 - 0.15 * static_cast<double>(row), 0.1) << row;
  EXPECT_NEAR(adjustment.slope, 0.825, 0.05) << "of the whole series";
  one.levels.log_x.resize(0);
  const Eigen::ArrayXd alike = adjustment_of(one.log_ms, one.levels).below_bend;
  EXPECT_LT(alike.maxCoeff() - alike.minCoeff(), 0.1) << "without an axis, places differ by what each has for itself";
}

// The largest counts were aimed at late, when the machine had become slow.
TEST(LevelAdjustment, PlacesThatWereMeasuredSlowAloneRestOnThoseAroundThem) {
  Made one = unlike_along_the_axis();
  for (Eigen::ArrayXXd* table : {&one.log_ms, &one.levels.level, &one.levels.one_half, &one.levels.other_half})
    table->bottomLeftCorner(2, 10).setConstant(std::numeric_limits<double>::quiet_NaN());
  for (Eigen::ArrayXXd* half : {&one.levels.level, &one.levels.one_half, &one.levels.other_half})
    half->rightCols(2) += 0.2;
  for (Eigen::Index row = 0; row < 6; ++row)
    one.log_ms.row(row).tail(2) += (1.2 - 0.15 * static_cast<double>(row)) * 0.2;
  const LevelAdjustment adjustment = adjustment_of(one.log_ms, one.levels);
  EXPECT_LT(adjustment.below_bend(5), 0.75) << "0.45 there, 0.9 on the whole";
  const auto doubt = [&](Eigen::Index row) { return std::sqrt(adjustment.cost_covariance(row, row)); };
  EXPECT_GT(doubt(5), 2 * doubt(2));
  EXPECT_LT(doubt(5), 0.45 * hypot(slope_prior_deviation, place_slope_deviation)) << "it is no place alone";
  const Eigen::ArrayXd costs = adjustment.at_fast_level(one.log_ms).rightCols(2).rowwise().mean();
  EXPECT_NEAR(costs(5), std::log(6.0), 1.96 * doubt(5) + 0.02);
}

// The last place was measured in a quiet moment alone: its cost is known, those of the others share a doubt.
TEST(LevelAdjustment, RowsAtUnlikeLevelsMayLieOffEachOther) {
  Made one = made(0, 0.02, 0, 12, 0.7);
  for (Eigen::ArrayXXd* half : {&one.levels.level, &one.levels.one_half, &one.levels.other_half})
    half->row(5) -= 0.65;
  const Eigen::MatrixXd doubt = adjustment_of(one.log_ms, one.levels).row_covariance;
  const auto apart = [&](Eigen::Index row, Eigen::Index other) {
    return std::sqrt(doubt(row, row) + doubt(other, other) - 2 * doubt(row, other));
  };
  EXPECT_GT(apart(5, 0), 0.05);
  EXPECT_LT(apart(1, 0), 0.7 * apart(5, 0));
}

TEST(LevelAdjustment, ALevelWithinItsOwnDoubtPutsNoSlopeInDoubt) {
  const auto doubt_at = [](double level) {
    const Made one = made(0.6, 0.0005, 0, 12, level);
    return std::sqrt(adjustment_of(one.log_ms, one.levels).cost_covariance(0, 0));
  };
  EXPECT_LT(doubt_at(-0.008), 1e-9);
  EXPECT_NEAR(doubt_at(0.05),
              std::sqrt(0.05 * 0.05 - fast_level_deviation * fast_level_deviation) *
                  std::hypot(slope_prior_deviation, place_slope_deviation),
              0.001);
}

TEST(LevelAdjustment, ABusyMachineDiffersByWhatNoLevelTells) {
  const auto untold_at = [](double level) {
    const Made one = made(0.6, 0.0005, 0, 12, level);
    return adjustment_of(one.log_ms, one.levels).untold_variance;
  };
  EXPECT_EQ(untold_at(untold_from - 0.01), 0) << "a machine at rest";
  EXPECT_NEAR(untold_at(untold_from + 0.05), 0.05 * untold_by_level, 0.001 * untold_by_level);
  EXPECT_NEAR(untold_at(untold_from + 0.1), 0.1 * untold_by_level, 0.001 * untold_by_level);
  EXPECT_EQ(untold_at(untold_from + 0.3), most_untold) << "more of the core is not more of the memory";
}

// Slow runs count less for the slope, and were there all the same.
TEST(LevelAdjustment, WhatNoLevelTellsGoesByAllRunsAlike) {
  Made one = made(0.6, 0.0005, 0, 12, 0.02);
  for (Eigen::ArrayXXd* half : {&one.levels.level, &one.levels.one_half, &one.levels.other_half})
    half->rightCols(2) += 0.6;
  one.log_ms.rightCols(2) += 0.6 * 0.6;
  const LevelAdjustment adjustment = adjustment_of(one.log_ms, one.levels);
  EXPECT_LT(adjustment.mean_level, 0.1);
  EXPECT_NEAR(adjustment.untold_variance, (0.12 - untold_from) * untold_by_level, 0.01 * untold_by_level);
}

TEST(LevelAdjustment, FewProbesDoNotFlattenTheSlope) {
  const Made exact = made(0.8, 0.15, 0, 30);
  const Made chancy = made(0.8, 0.15, 0.15, 30);
  EXPECT_NEAR(adjustment_of(chancy.log_ms, chancy.levels).slope, adjustment_of(exact.log_ms, exact.levels).slope, 0.12);
}

TEST(LevelAdjustment, FewProbesDoNotFlattenTheSlopeOfASinglePlaceEither) {
  const Made exact = made(1, 0.15, 0, 60, 0.2, 1);
  const Made chancy = made(1, 0.15, 0.15, 60, 0.2, 1);
  const double slope = adjustment_of(chancy.log_ms, chancy.levels).slope;
  EXPECT_NEAR(slope, adjustment_of(exact.log_ms, exact.levels).slope, 0.15) << "0.7 of it where chance is left in";
  const Eigen::ArrayXXd adjusted = adjustment_of(chancy.log_ms, chancy.levels).at_fast_level(chancy.log_ms);
  EXPECT_NEAR(adjusted.mean(), 0, 0.06);
}

TEST(LevelAdjustment, ASpikeTiltsNoSlopeAtASinglePlace) {
  const Made calm = made(0.6, 0.05, 0, 10, 0.2, 1);
  Made spiked = calm;
  Eigen::Index slowest = 0;
  spiked.levels.level.row(0).maxCoeff(&slowest);
  spiked.log_ms(0, slowest) += 0.6;
  EXPECT_NEAR(adjustment_of(spiked.log_ms, spiked.levels).slope, adjustment_of(calm.log_ms, calm.levels).slope, 0.3)
      << "up to 2 where blocks take the spike in";
}

TEST(LevelAdjustment, LevelsThatAreChanceAloneMoveNothing) {
  const Made one = made(0.8, 0, 0.2);
  const LevelAdjustment adjustment = adjustment_of(one.log_ms, one.levels);
  const Eigen::ArrayXXd moved = adjustment.at_fast_level(one.log_ms) - one.log_ms;
  EXPECT_LT((moved - moved.mean()).abs().maxCoeff(), 0.12) << "by the levels as they were told it would be 0.3";
}

// Long frames that follow the yardstick by 0.9 lie farther above the geometric mean of its moments than usual ones do.
TEST(LevelAdjustment, LongFramesAreBroughtDownByTheirOwnSlope) {
  Made one = made(0.9, 0.15);
  const double geometric_above = 0.05;  // for the slope 0.9
  one.levels.raised = Eigen::ArrayXXd::Zero(6, 12);
  one.levels.raised.bottomRows(3) = geometric_above * 0.55 / 0.9;
  for (auto half : {&LevelTables::level, &LevelTables::one_half, &LevelTables::other_half})
    (one.levels.*half) += one.levels.raised;
  one.log_ms.bottomRows(3) += 0.9 * geometric_above;
  const auto apart = [&] {
    const LevelAdjustment adjustment = adjustment_of(one.log_ms, one.levels);
    EXPECT_NEAR(adjustment.slope, 0.9, 0.05);
    const Eigen::ArrayXd rows = adjustment.at_fast_level(one.log_ms).rowwise().mean();
    return rows(5) - std::log(6.0) - (rows(0) - std::log(1.0));
  };
  const double by_own_slope = apart();
  one.levels.raised.resize(0, 0);
  EXPECT_NEAR(apart() - by_own_slope, 0.9 * (geometric_above - geometric_above * 0.55 / 0.9), 0.003);
}

TEST(LevelAdjustment, RaisedLevelsMakeTheSlopeMatterMore) {
  Made one = made(0.6, 0.15);
  const auto doubt = [&] { return std::sqrt(adjustment_of(one.log_ms, one.levels).cost_covariance(0, 0)); };
  const double usual = doubt();
  one.levels.raised = Eigen::ArrayXXd::Constant(6, 12, 0.03);
  const double slope = adjustment_of(one.log_ms, one.levels).slope;
  EXPECT_NEAR(doubt() / usual, 1 + (2 * slope / 0.55 - 1) * 0.03 / 0.2, 0.03);
}

// Half of what the levels of runs differ by is chance of the moments that were probed.
TEST(LevelAdjustment, ProbesBetweenShortFramesSeeTheVeryFramesBesideThem) {
  Made one = made(0.8, 0.1, 0.14, 12, 0.2, 6, 0.7);
  EXPECT_GT(adjustment_of(one.log_ms, one.levels).slope, 1.1) << "as if the frames saw nothing of that chance";
  one.levels.apart_ms = Eigen::ArrayXd::Constant(6, 0.1);
  EXPECT_NEAR(adjustment_of(one.log_ms, one.levels).slope, 0.8, 0.1);
  Made of_long_frames = made(0.8, 0.1, 0.14);
  of_long_frames.levels.apart_ms = Eigen::ArrayXd::Constant(6, 100);
  EXPECT_NEAR(adjustment_of(of_long_frames.log_ms, of_long_frames.levels).slope, 0.8, 0.1);
}

TEST(LevelAdjustment, HowReliableLevelsAreIsToldByFramesOfLikeLength) {
  Made one = made(0.6, 0.1, 0.02, 30);
  const Made restless = made(0.6, 0.1, 0.2, 30);
  for (auto half : {&LevelTables::level, &LevelTables::one_half, &LevelTables::other_half})
    (one.levels.*half).bottomRows(3) = (restless.levels.*half).bottomRows(3);
  const auto shrunk_to = [&](const std::vector<double>& apart_ms) {
    one.levels.apart_ms = Eigen::Map<const Eigen::ArrayXd>(apart_ms.data(), 6);
    const auto spread = [](const Eigen::ArrayXXd& rows) {
      const Eigen::ArrayXXd beside_rows = rows.colwise() - rows.rowwise().mean();
      return std::sqrt((beside_rows.rowwise() - beside_rows.colwise().mean()).square().sum());
    };
    return spread(adjustment_of(one.log_ms, one.levels).level.bottomRows(3)) / spread(one.levels.level.bottomRows(3));
  };
  const double by_all = shrunk_to({200, 200, 200, 200, 200, 200});
  const double with_others_half_as_long = shrunk_to({100, 100, 100, 200, 200, 200});
  const double by_themselves = shrunk_to({2, 2, 2, 200, 200, 200});
  EXPECT_GT(by_all, 1.05 * with_others_half_as_long);
  EXPECT_GT(with_others_half_as_long, 1.05 * by_themselves);
  EXPECT_NEAR(by_themselves, 1 / 3.0, 0.1) << "of 0.01 + 0.02, 0.01 are shared";
}

TEST(LevelAdjustment, RunsFarFromTheFastLevelTellLess) {
  Made one = made(0.5, 0);
  for (Eigen::ArrayXXd* half : {&one.levels.level, &one.levels.one_half, &one.levels.other_half}) (*half).col(0) += 0.4;
  const LevelAdjustment adjustment = adjustment_of(one.log_ms, one.levels);
  EXPECT_NEAR(adjustment.weight(0, 0), 0.5, 0.02) << "at a level of 0.2 + 0.4";
  EXPECT_GT(adjustment.weight(0, 1), 0.85);
}

TEST(LevelAdjustment, HolesStayHoles) {
  Made one = made(0.6, 0.15);
  for (Eigen::ArrayXXd* table : {&one.log_ms, &one.levels.level, &one.levels.one_half, &one.levels.other_half})
    (*table)(2, 3) = std::numeric_limits<double>::quiet_NaN();
  const LevelAdjustment adjustment = adjustment_of(one.log_ms, one.levels);
  EXPECT_NEAR(adjustment.slope, 0.6, 0.05);
  EXPECT_TRUE(std::isnan(adjustment.at_fast_level(one.log_ms)(2, 3)));
  EXPECT_FALSE(std::isnan(adjustment.at_fast_level(one.log_ms)(2, 4)));
}

TEST(LevelAdjustment, WithoutLevelsNothingMoves) {
  const Made one = made(0.6, 0.15);
  const LevelAdjustment adjustment = adjustment_of(one.log_ms, {});
  EXPECT_TRUE((adjustment.at_fast_level(one.log_ms) == one.log_ms).all());
  EXPECT_EQ(adjustment.mean_level, 0);
  EXPECT_EQ(adjustment.taken_off(), 0);
}

}  // namespace
}  // namespace mileage
