#include "analysis/statistics/slowdown_correction.h"

#include <cmath>
#include <limits>
#include <random>

#include <gtest/gtest.h>

#include "analysis/statistics/constants.h"

namespace mileage {
namespace {

/// A made-up series: costs 1, 2, 3 ... ms by row, times what the machine's slowdown does to them by a known slope.
struct Made {
  Eigen::ArrayXXd log_ms;
  SlowdownTables slowdowns;
};

/// `slowdowns_apart`: standard deviation of the slowdowns. `chance`: of each half of the probes about them. `seen`:
/// share of the chance that frames see too, since they run beside the probes.
Made made(double slope, double slowdowns_apart, double chance = 0, Eigen::Index blocks = 12, double mean_slowdown = 0.2,
          Eigen::Index rows = 6, double seen = 0) {
  std::mt19937 random(7);
  std::normal_distribution<double> normal;
  Made all{Eigen::ArrayXXd(rows, blocks),
           {Eigen::ArrayXXd(rows, blocks), Eigen::ArrayXXd(rows, blocks), Eigen::ArrayXXd(rows, blocks)}};
  for (Eigen::Index row = 0; row < rows; ++row)
    for (Eigen::Index block = 0; block < blocks; ++block) {
      const double slowdown = mean_slowdown + slowdowns_apart * normal(random);
      all.slowdowns.one_half(row, block) = slowdown + chance * normal(random);
      all.slowdowns.other_half(row, block) = slowdown + chance * normal(random);
      const double by_chance =
          (all.slowdowns.one_half(row, block) + all.slowdowns.other_half(row, block)) / 2 - slowdown;
      all.log_ms(row, block) =
          std::log(1.0 + static_cast<double>(row)) + slope * (slowdown + seen * by_chance) + 0.02 * normal(random);
    }
  all.slowdowns.slowdown = (all.slowdowns.one_half + all.slowdowns.other_half) / 2;
  return all;
}

double mean_error(const Made& one, const SlowdownCorrection& adjustment) {
  const Eigen::ArrayXd rows = adjustment.at_full_speed(one.log_ms).rowwise().mean();
  double error = 0;
  for (Eigen::Index row = 0; row < rows.size(); ++row)
    error += (rows(row) - std::log(1.0 + static_cast<double>(row))) / static_cast<double>(rows.size());
  return error;
}

TEST(SlowdownCorrection, FindsTheSlopeAndBringsCostsToTheFullSpeed) {
  for (const double slope : {0.3, 0.6, 1.0}) {
    const Made one = made(slope, 0.15);
    const SlowdownCorrection adjustment = correct_for_slowdown(one.log_ms, one.slowdowns);
    EXPECT_NEAR(adjustment.slope, slope, 0.05);
    EXPECT_GT(adjustment.trust, 0.9);
    EXPECT_NEAR(mean_error(one, adjustment), 0, 0.015);
    EXPECT_NEAR(adjustment.taken_off(), 1 - std::exp(-slope * 0.2), 0.05);
  }
}

TEST(SlowdownCorrection, KeepsToWhatIsUsualWhereSlowdownsHardlyDiffer) {
  const Made one = made(1.0, 0.0005);
  const SlowdownCorrection adjustment = correct_for_slowdown(one.log_ms, one.slowdowns);
  EXPECT_NEAR(adjustment.slope, slope_prior_mean, 0.1);
  EXPECT_LT(adjustment.trust, 0.1);
  EXPECT_GT(adjustment.slower_sd(0, 0, 0.2), 0.2 * 0.2) << "the doubt says so";
}

/// What a neighbour on the core does to frames: by one slope as long as his share of the time grows, and by another one
/// beyond that.
Made beside_a_neighbour(double below_bend, double beyond_bend, double mean_slowdown, double slowdowns_apart) {
  Made one = made(0, slowdowns_apart, 0, 12, mean_slowdown);
  one.log_ms += below_bend * one.slowdowns.slowdown.min(0.4) + beyond_bend * (one.slowdowns.slowdown - 0.4).max(0.0);
  return one;
}

TEST(SlowdownCorrection, FindsTheBendWhereRunsLieOnEitherSide) {
  const Made one = beside_a_neighbour(1.0, 0.2, 0.4, 0.2);
  const SlowdownCorrection adjustment = correct_for_slowdown(one.log_ms, one.slowdowns);
  EXPECT_NEAR(adjustment.below_bend(0), 1.0, 0.06);
  EXPECT_NEAR(adjustment.beyond_bend(0), 0.2, 0.06);
  EXPECT_GT(adjustment.trust, 0.9);
  EXPECT_LT(adjustment.slower_sd(0, 0.2, 0.6), 0.02);
  EXPECT_NEAR(mean_error(one, adjustment), 0, 0.015);
  EXPECT_NEAR(adjustment.log_slower_at(0, 0.3), 0.3, 0.02);
  EXPECT_NEAR(adjustment.log_slower_at(0, 0.6), 0.4 + 0.2 * 0.2, 0.03);
}

TEST(SlowdownCorrection, TheBendLiesOffAStraightLineAsFarAsItIsTold) {
  SlowdownCorrection adjustment;
  adjustment.below_bend = Eigen::ArrayXd::Constant(1, 1);
  adjustment.beyond_bend = Eigen::ArrayXd::Constant(1, 0.2);
  EXPECT_NEAR(adjustment.log_bent_between(0, 0.8), 0.4 - 0.48 / 2, 1e-12);
  EXPECT_NEAR(adjustment.log_bent_between(0.2, 0.8), 0.4 - (0.2 + 0.28 / 3), 1e-12);
  EXPECT_EQ(adjustment.log_bent_between(0, 0.4), 0);
  EXPECT_EQ(adjustment.log_bent_between(0.4, 0.8), 0);
  adjustment.bend_sd = 0.4;
  EXPECT_NEAR(adjustment.log_bent_between(0, 0.8), 0.08, 1e-12) << "half of it may be chance";
  adjustment.bend_sd = 1;
  EXPECT_EQ(adjustment.log_bent_between(0, 0.8), 0);
}

TEST(SlowdownCorrection, RunsBeyondTheBendTellNothingOfTheWayBelowIt) {
  const Made one = beside_a_neighbour(1.0, 0.2, 0.65, 0.06);
  const SlowdownCorrection adjustment = correct_for_slowdown(one.log_ms, one.slowdowns);
  EXPECT_NEAR(adjustment.beyond_bend(0), 0.2, 0.1);
  EXPECT_NEAR(adjustment.below_bend(0), slope_prior_mean, 0.1);
  const double uncertainty = std::sqrt(adjustment.cost_covariance(0, 0));
  EXPECT_GT(uncertainty, 0.4 * slope_prior_sd) << "of the way below the bend";
  EXPECT_GT(adjustment.slower_sd(0, 0.1, 0.3), 2 * adjustment.slower_sd(0, 0.5, 0.7));
  EXPECT_LT(uncertainty, 0.4 * std::hypot(slope_prior_sd, place_slope_sd));
  EXPECT_LT(std::fabs(mean_error(one, adjustment)), 1.96 * uncertainty);
}

/// Places a factor of ten apart, the slope falling by 0.15 from each to the next.
Made unlike_along_the_axis() {
  Made one = made(0, 0.15);
  one.slowdowns.log_x = Eigen::ArrayXd::LinSpaced(6, std::log(100), std::log(1e7));
  for (Eigen::Index row = 0; row < 6; ++row)
    one.log_ms.row(row) += (1.2 - 0.15 * static_cast<double>(row)) * one.slowdowns.slowdown.row(row);
  return one;
}

TEST(SlowdownCorrection, SlopesMayDifferAlongTheAxis) {
  Made one = unlike_along_the_axis();
  const SlowdownCorrection adjustment = correct_for_slowdown(one.log_ms, one.slowdowns);
  for (Eigen::Index row = 0; row < 6; ++row)
    EXPECT_NEAR(adjustment.below_bend(row), 1.2 - 0.15 * static_cast<double>(row), 0.1) << row;
  EXPECT_NEAR(adjustment.slope, 0.825, 0.05) << "of the whole series";
  one.slowdowns.log_x.resize(0);
  const Eigen::ArrayXd alike = correct_for_slowdown(one.log_ms, one.slowdowns).below_bend;
  EXPECT_LT(alike.maxCoeff() - alike.minCoeff(), 0.1) << "without an axis, places differ by what each has for itself";
}

// The largest counts were aimed at late, when the machine had become slow.
TEST(SlowdownCorrection, PlacesThatWereMeasuredSlowAloneRestOnThoseAroundThem) {
  Made one = unlike_along_the_axis();
  for (Eigen::ArrayXXd* table :
       {&one.log_ms, &one.slowdowns.slowdown, &one.slowdowns.one_half, &one.slowdowns.other_half})
    table->bottomLeftCorner(2, 10).setConstant(std::numeric_limits<double>::quiet_NaN());
  for (Eigen::ArrayXXd* half : {&one.slowdowns.slowdown, &one.slowdowns.one_half, &one.slowdowns.other_half})
    half->rightCols(2) += 0.2;
  for (Eigen::Index row = 0; row < 6; ++row)
    one.log_ms.row(row).tail(2) += (1.2 - 0.15 * static_cast<double>(row)) * 0.2;
  const SlowdownCorrection adjustment = correct_for_slowdown(one.log_ms, one.slowdowns);
  EXPECT_LT(adjustment.below_bend(5), 0.75) << "0.45 there, 0.9 on the whole";
  const auto uncertainty = [&](Eigen::Index row) { return std::sqrt(adjustment.cost_covariance(row, row)); };
  EXPECT_GT(uncertainty(5), 2 * uncertainty(2));
  EXPECT_LT(uncertainty(5), 0.45 * hypot(slope_prior_sd, place_slope_sd)) << "it is no place alone";
  const Eigen::ArrayXd costs = adjustment.at_full_speed(one.log_ms).rightCols(2).rowwise().mean();
  EXPECT_NEAR(costs(5), std::log(6.0), 1.96 * uncertainty(5) + 0.02);
}

// The last place was measured in a quiet moment alone: its cost is known, those of the others share a uncertainty.
TEST(SlowdownCorrection, RowsAtUnlikeSlowdownsMayLieOffEachOther) {
  Made one = made(0, 0.02, 0, 12, 0.7);
  for (Eigen::ArrayXXd* half : {&one.slowdowns.slowdown, &one.slowdowns.one_half, &one.slowdowns.other_half})
    half->row(5) -= 0.65;
  const Eigen::MatrixXd uncertainty = correct_for_slowdown(one.log_ms, one.slowdowns).row_covariance;
  const auto apart = [&](Eigen::Index row, Eigen::Index other) {
    return std::sqrt(uncertainty(row, row) + uncertainty(other, other) - 2 * uncertainty(row, other));
  };
  EXPECT_GT(apart(5, 0), 0.05);
  EXPECT_LT(apart(1, 0), 0.7 * apart(5, 0));
}

TEST(SlowdownCorrection, ASlowdownWithinItsOwnDoubtPutsNoSlopeInDoubt) {
  const auto uncertainty_at = [](double slowdown) {
    const Made one = made(0.6, 0.0005, 0, 12, slowdown);
    return std::sqrt(correct_for_slowdown(one.log_ms, one.slowdowns).cost_covariance(0, 0));
  };
  EXPECT_LT(uncertainty_at(-0.008), 1e-9);
  EXPECT_NEAR(
      uncertainty_at(0.05),
      std::sqrt(0.05 * 0.05 - min_full_speed_sd * min_full_speed_sd) * std::hypot(slope_prior_sd, place_slope_sd),
      0.001);
}

TEST(SlowdownCorrection, ABusyMachineDiffersByWhatNoSlowdownTells) {
  const auto unexplained_at = [](double slowdown) {
    const Made one = made(0.6, 0.0005, 0, 12, slowdown);
    return correct_for_slowdown(one.log_ms, one.slowdowns).unexplained_variance;
  };
  EXPECT_EQ(unexplained_at(unexplained_from - 0.01), 0) << "a machine at rest";
  EXPECT_NEAR(unexplained_at(unexplained_from + 0.05), 0.05 * unexplained_by_slowdown, 0.001 * unexplained_by_slowdown);
  EXPECT_NEAR(unexplained_at(unexplained_from + 0.1), 0.1 * unexplained_by_slowdown, 0.001 * unexplained_by_slowdown);
  EXPECT_EQ(unexplained_at(unexplained_from + 0.3), max_unexplained) << "more of the core is not more of the memory";
}

// Slow runs count less for the slope, and were there all the same.
TEST(SlowdownCorrection, WhatNoSlowdownTellsGoesByAllRunsAlike) {
  Made one = made(0.6, 0.0005, 0, 12, 0.02);
  for (Eigen::ArrayXXd* half : {&one.slowdowns.slowdown, &one.slowdowns.one_half, &one.slowdowns.other_half})
    half->rightCols(2) += 0.6;
  one.log_ms.rightCols(2) += 0.6 * 0.6;
  const SlowdownCorrection adjustment = correct_for_slowdown(one.log_ms, one.slowdowns);
  EXPECT_LT(adjustment.mean_slowdown, 0.1);
  EXPECT_NEAR(adjustment.unexplained_variance, (0.12 - unexplained_from) * unexplained_by_slowdown,
              0.01 * unexplained_by_slowdown);
}

TEST(SlowdownCorrection, FewProbesDoNotFlattenTheSlope) {
  const Made exact = made(0.8, 0.15, 0, 30);
  const Made chancy = made(0.8, 0.15, 0.15, 30);
  EXPECT_NEAR(correct_for_slowdown(chancy.log_ms, chancy.slowdowns).slope,
              correct_for_slowdown(exact.log_ms, exact.slowdowns).slope, 0.12);
}

TEST(SlowdownCorrection, FewProbesDoNotFlattenTheSlopeOfASinglePlaceEither) {
  const Made exact = made(1, 0.15, 0, 60, 0.2, 1);
  const Made chancy = made(1, 0.15, 0.15, 60, 0.2, 1);
  const double slope = correct_for_slowdown(chancy.log_ms, chancy.slowdowns).slope;
  EXPECT_NEAR(slope, correct_for_slowdown(exact.log_ms, exact.slowdowns).slope, 0.15)
      << "0.7 of it where chance is left in";
  const Eigen::ArrayXXd adjusted = correct_for_slowdown(chancy.log_ms, chancy.slowdowns).at_full_speed(chancy.log_ms);
  EXPECT_NEAR(adjusted.mean(), 0, 0.06);
}

TEST(SlowdownCorrection, ASpikeTiltsNoSlopeAtASinglePlace) {
  const Made calm = made(0.6, 0.05, 0, 10, 0.2, 1);
  Made spiked = calm;
  Eigen::Index slowest = 0;
  spiked.slowdowns.slowdown.row(0).maxCoeff(&slowest);
  spiked.log_ms(0, slowest) += 0.6;
  EXPECT_NEAR(correct_for_slowdown(spiked.log_ms, spiked.slowdowns).slope,
              correct_for_slowdown(calm.log_ms, calm.slowdowns).slope, 0.3)
      << "up to 2 where blocks take the spike in";
}

TEST(SlowdownCorrection, SlowdownsThatAreChanceAloneMoveNothing) {
  const Made one = made(0.8, 0, 0.2);
  const SlowdownCorrection adjustment = correct_for_slowdown(one.log_ms, one.slowdowns);
  const Eigen::ArrayXXd moved = adjustment.at_full_speed(one.log_ms) - one.log_ms;
  EXPECT_LT((moved - moved.mean()).abs().maxCoeff(), 0.12) << "by the levels as they were told it would be 0.3";
}

// Long frames that follow the yardstick by 0.9 lie farther above the geometric mean of its moments than usual ones do.
TEST(SlowdownCorrection, LongFramesAreBroughtDownByTheirOwnSlope) {
  Made one = made(0.9, 0.15);
  const double geometric_above = 0.05;  // for the slope 0.9
  one.slowdowns.mean_excess = Eigen::ArrayXXd::Zero(6, 12);
  one.slowdowns.mean_excess.bottomRows(3) = geometric_above * 0.55 / 0.9;
  for (auto half : {&SlowdownTables::slowdown, &SlowdownTables::one_half, &SlowdownTables::other_half})
    (one.slowdowns.*half) += one.slowdowns.mean_excess;
  one.log_ms.bottomRows(3) += 0.9 * geometric_above;
  const auto apart = [&] {
    const SlowdownCorrection adjustment = correct_for_slowdown(one.log_ms, one.slowdowns);
    EXPECT_NEAR(adjustment.slope, 0.9, 0.05);
    const Eigen::ArrayXd rows = adjustment.at_full_speed(one.log_ms).rowwise().mean();
    return rows(5) - std::log(6.0) - (rows(0) - std::log(1.0));
  };
  const double by_own_slope = apart();
  one.slowdowns.mean_excess.resize(0, 0);
  EXPECT_NEAR(apart() - by_own_slope, 0.9 * (geometric_above - geometric_above * 0.55 / 0.9), 0.003);
}

TEST(SlowdownCorrection, RaisedSlowdownsMakeTheSlopeMatterMore) {
  Made one = made(0.6, 0.15);
  const auto uncertainty = [&] {
    return std::sqrt(correct_for_slowdown(one.log_ms, one.slowdowns).cost_covariance(0, 0));
  };
  const double usual = uncertainty();
  one.slowdowns.mean_excess = Eigen::ArrayXXd::Constant(6, 12, 0.03);
  const double slope = correct_for_slowdown(one.log_ms, one.slowdowns).slope;
  EXPECT_NEAR(uncertainty() / usual, 1 + (2 * slope / 0.55 - 1) * 0.03 / 0.2, 0.03);
}

// Half of what the slowdowns of runs differ by is chance of the moments that were probed.
TEST(SlowdownCorrection, ProbesBetweenShortFramesSeeTheVeryFramesBesideThem) {
  Made one = made(0.8, 0.1, 0.14, 12, 0.2, 6, 0.7);
  EXPECT_GT(correct_for_slowdown(one.log_ms, one.slowdowns).slope, 1.1)
      << "as if the frames saw nothing of that chance";
  one.slowdowns.probe_spacing_ms = Eigen::ArrayXd::Constant(6, 0.1);
  EXPECT_NEAR(correct_for_slowdown(one.log_ms, one.slowdowns).slope, 0.8, 0.1);
  Made of_long_frames = made(0.8, 0.1, 0.14);
  of_long_frames.slowdowns.probe_spacing_ms = Eigen::ArrayXd::Constant(6, 100);
  EXPECT_NEAR(correct_for_slowdown(of_long_frames.log_ms, of_long_frames.slowdowns).slope, 0.8, 0.1);
}

TEST(SlowdownCorrection, HowReliableSlowdownsAreIsToldByFramesOfLikeLength) {
  Made one = made(0.6, 0.1, 0.02, 30);
  const Made restless = made(0.6, 0.1, 0.2, 30);
  for (auto half : {&SlowdownTables::slowdown, &SlowdownTables::one_half, &SlowdownTables::other_half})
    (one.slowdowns.*half).bottomRows(3) = (restless.slowdowns.*half).bottomRows(3);
  const auto shrunk_to = [&](const std::vector<double>& probe_spacing_ms) {
    one.slowdowns.probe_spacing_ms = Eigen::Map<const Eigen::ArrayXd>(probe_spacing_ms.data(), 6);
    const auto spread = [](const Eigen::ArrayXXd& rows) {
      const Eigen::ArrayXXd beside_rows = rows.colwise() - rows.rowwise().mean();
      return std::sqrt((beside_rows.rowwise() - beside_rows.colwise().mean()).square().sum());
    };
    return spread(correct_for_slowdown(one.log_ms, one.slowdowns).slowdown.bottomRows(3)) /
           spread(one.slowdowns.slowdown.bottomRows(3));
  };
  const double by_all = shrunk_to({200, 200, 200, 200, 200, 200});
  const double with_others_half_as_long = shrunk_to({100, 100, 100, 200, 200, 200});
  const double by_themselves = shrunk_to({2, 2, 2, 200, 200, 200});
  EXPECT_GT(by_all, 1.05 * with_others_half_as_long);
  EXPECT_GT(with_others_half_as_long, 1.05 * by_themselves);
  EXPECT_NEAR(by_themselves, 1 / 3.0, 0.1) << "of 0.01 + 0.02, 0.01 are shared";
}

TEST(SlowdownCorrection, RunsFarFromTheFullSpeedTellLess) {
  Made one = made(0.5, 0);
  for (Eigen::ArrayXXd* half : {&one.slowdowns.slowdown, &one.slowdowns.one_half, &one.slowdowns.other_half})
    (*half).col(0) += 0.4;
  const SlowdownCorrection adjustment = correct_for_slowdown(one.log_ms, one.slowdowns);
  EXPECT_NEAR(adjustment.weight(0, 0), 0.5, 0.02) << "at a level of 0.2 + 0.4";
  EXPECT_GT(adjustment.weight(0, 1), 0.85);
}

TEST(SlowdownCorrection, HolesStayHoles) {
  Made one = made(0.6, 0.15);
  for (Eigen::ArrayXXd* table :
       {&one.log_ms, &one.slowdowns.slowdown, &one.slowdowns.one_half, &one.slowdowns.other_half})
    (*table)(2, 3) = std::numeric_limits<double>::quiet_NaN();
  const SlowdownCorrection adjustment = correct_for_slowdown(one.log_ms, one.slowdowns);
  EXPECT_NEAR(adjustment.slope, 0.6, 0.05);
  EXPECT_TRUE(std::isnan(adjustment.at_full_speed(one.log_ms)(2, 3)));
  EXPECT_FALSE(std::isnan(adjustment.at_full_speed(one.log_ms)(2, 4)));
}

TEST(SlowdownCorrection, WithoutSlowdownsNothingMoves) {
  const Made one = made(0.6, 0.15);
  const SlowdownCorrection adjustment = correct_for_slowdown(one.log_ms, {});
  EXPECT_TRUE((adjustment.at_full_speed(one.log_ms) == one.log_ms).all());
  EXPECT_EQ(adjustment.mean_slowdown, 0);
  EXPECT_EQ(adjustment.taken_off(), 0);
}

}  // namespace
}  // namespace mileage
