#include "analysis/statistics/level_adjustment.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

#include <Eigen/LU>

#include "analysis/statistics/cell_means.h"
#include "analysis/statistics/constants.h"

namespace mileage {
namespace {

using Table = Eigen::ArrayXXd;

/// What is left of a table without the effects of rows and blocks, 0 where there is no visit.
Table residuals_of(const Table& table, const Additive& model) {
  return (table == table).select(table - model.fitted(), 0.0);
}

/// The levels as far as they are reliable. Probes see moments between the frames, and not the frames themselves: what
/// both halves share of the residuals is the machine's, the rest is chance, and is shrunk away.
struct CalibratedLevel {
  Additive model;
  Table residuals;  ///< Shrunk.
  Table table() const { return model.fitted() + residuals; }
};

/// Blocks of few visits are moved by chance as single visits are: what both halves share of them stays.
Eigen::ArrayXd calibrated_blocks(const Eigen::ArrayXd& plain, const Eigen::ArrayXd& one, const Eigen::ArrayXd& other) {
  const double mean = plain.mean();
  const double squares = (plain - mean).square().sum();
  if (squares <= 0) return plain;
  const double shared = ((one - one.mean()) * (other - other.mean())).sum();
  const double drawn = blocks_for_reliability * squares / static_cast<double>(plain.size());
  return mean + std::clamp((shared + drawn) / (squares + drawn), 0.0, 1.0) * (plain - mean);
}

/// How much rows tell of each other: probes see frames alike that run alike long between them.
Eigen::MatrixXd likeness_of(const LevelTables& levels) {
  const Eigen::Index rows = levels.level.rows();
  if (levels.apart_ms.size() == 0) return Eigen::MatrixXd::Identity(rows, rows);
  const Eigen::ArrayXd apart = levels.apart_ms.log() / std::log(2.0);
  const Table distance = apart.replicate(1, rows) - apart.transpose().replicate(rows, 1);
  return (1 / (1 + distance.square())).matrix();
}

/// Share of what a level tells of the machine during its visit, by row. Both halves of the probes tell how much of it
/// they share; frames that run beside a probe without a change of the machine are seen by that one alone.
Eigen::ArrayXd reliability_of_rows(const LevelTables& levels, const Table& shared, const Table& squares) {
  const double visits = (levels.level == levels.level).cast<double>().sum();
  const double drawn = visits_for_reliability * squares.sum() / visits;
  const double whole = shared.sum() / squares.sum();
  const Eigen::MatrixXd likeness = likeness_of(levels);
  const Eigen::ArrayXd shared_by = likeness * shared.rowwise().sum().matrix();
  const Eigen::ArrayXd squares_by = likeness * squares.rowwise().sum().matrix();
  const Eigen::ArrayXd by_halves = ((shared_by + drawn * whole) / (squares_by + drawn)).max(0.0).min(1.0);
  if (levels.apart_ms.size() == 0) return by_halves;
  const Eigen::ArrayXd beside = seen_beside_probes * states_last_ms / (states_last_ms + levels.apart_ms);
  return by_halves + beside * (1 - by_halves);
}

CalibratedLevel calibrated(const LevelTables& levels) {
  CalibratedLevel level{fit_additive(levels.level), {}};
  const Additive model_of_one = fit_additive(levels.one_half), model_of_other = fit_additive(levels.other_half);
  const Table plain = residuals_of(levels.level, level.model);
  const Table one = residuals_of(levels.one_half, model_of_one);
  const Table other = residuals_of(levels.other_half, model_of_other);
  level.model.block = calibrated_blocks(level.model.block, model_of_one.block, model_of_other.block);
  const Table squares = plain.square();
  level.residuals = plain;
  if (squares.sum() > 0) level.residuals.colwise() *= reliability_of_rows(levels, one * other, squares);
  return level;
}

/// What a level is above 0 up to the bend, or beyond it.
Table below_bend(const Table& level) { return level.min(level_of_bend); }
Table beyond_bend(const Table& level) { return (level - level_of_bend).max(0.0); }

/// The two parts of a level that costs follow, each by its own slope.
struct BentLevel {
  std::array<Table, 2> residuals;
  std::array<Eigen::ArrayXd, 2> of_blocks;

  Table residuals_by(const Eigen::Vector2d& slopes) const {
    return slopes(0) * residuals[0] + slopes(1) * residuals[1];
  }
  Eigen::ArrayXd of_blocks_by(const Eigen::Vector2d& slopes) const {
    return slopes(0) * of_blocks[0] + slopes(1) * of_blocks[1];
  }
};

BentLevel bent(const CalibratedLevel& level, const Table& present) {
  const Table beyond = (present > 0).select(beyond_bend(level.table()), std::numeric_limits<double>::quiet_NaN());
  const Additive model = fit_additive(beyond);
  const Table residuals = residuals_of(beyond, model);
  return {{level.residuals - residuals, residuals}, {level.model.block - model.block, model.block}};
}

/// Sums of squares and products that a regression takes, each over the variance of what it is about.
struct Told {
  Eigen::Matrix2d squares = Eigen::Matrix2d::Zero();
  Eigen::Vector2d products = Eigen::Vector2d::Zero();
};

Told told_within(const Table& cost_residuals, const BentLevel& level, double variance) {
  Told told;
  for (std::size_t i = 0; i < 2; ++i) {
    for (std::size_t j = 0; j < 2; ++j) told.squares(i, j) = (level.residuals[i] * level.residuals[j]).sum() / variance;
    told.products(i) = (level.residuals[i] * cost_residuals).sum() / variance;
  }
  return told;
}

Told told_between_blocks(const Eigen::ArrayXd& cost, const BentLevel& level, const Eigen::ArrayXd& visits,
                         double variance) {
  Told told;
  const double counting = (visits > 0).cast<double>().sum();
  if (counting < 2) return told;
  const auto beside_mean = [&](const Eigen::ArrayXd& of_blocks) {
    return (of_blocks - (visits > 0).select(of_blocks, 0.0).sum() / counting).eval();
  };
  const Eigen::ArrayXd costs = beside_mean(cost);
  const std::array<Eigen::ArrayXd, 2> levels{beside_mean(level.of_blocks[0]), beside_mean(level.of_blocks[1])};
  for (Eigen::Index block = 0; block < visits.size(); ++block) {
    if (visits(block) == 0) continue;
    const double of_block = block_deviation_beside_level * block_deviation_beside_level + variance / visits(block);
    const Eigen::Vector2d at(levels[0](block), levels[1](block));
    told.squares += at * at.transpose() / of_block;
    told.products += at * costs(block) / of_block;
  }
  return told;
}

/// Both slopes, and what the study told of them.
struct Slopes {
  Eigen::Vector2d values = prior();
  Eigen::Matrix2d variance = prior_variance();  ///< Of both, by what was told.
  Eigen::Matrix2d left = prior_variance();      ///< The part of it that is the prior's; the rest is chance of visits.

  static Eigen::Vector2d prior() { return {slope_prior, slope_prior_beyond_bend}; }
  static Eigen::Matrix2d prior_variance() {
    return Eigen::Vector2d(slope_prior_deviation, slope_prior_deviation_beyond_bend)
        .array()
        .square()
        .matrix()
        .asDiagonal();
  }
};

/// The means of the prior and of what was told, each as sure as it is.
Slopes slopes_from(const Told& told) {
  const Eigen::Matrix2d prior_told = Slopes::prior_variance().inverse();
  const Eigen::Matrix2d variance = (told.squares + prior_told).inverse();
  return {variance * (told.products + prior_told * Slopes::prior()), variance, variance * prior_told * variance};
}

/// What a level is above 0 up to the bend, and beyond it.
Eigen::Vector2d parts_of(double level) {
  return {std::min(level, level_of_bend), std::max(level - level_of_bend, 0.0)};
}

/// Share of what slopes differ by from place to place that the slope of the whole series does not take.
double left_of_places(double trust) { return 1 - trust * (1 - left_by_own_slope); }

/// Mean over the visits, each as much as it tells.
double mean_over_visits(const Table& table, const Table& weights) {
  return (weights > 0).select(table * weights, 0.0).sum() / weights.sum();
}

/// Shares of the way from the mean level to 0 that lie below the bend and beyond it.
Eigen::Vector2d shares_of_way(const Table& level, const Table& weights) {
  const Eigen::Vector2d means(mean_over_visits(below_bend(level), weights),
                              mean_over_visits(beyond_bend(level), weights));
  return means.sum() > least_mean_level ? (means / means.sum()).eval() : Eigen::Vector2d(1, 0);
}

/// The adjustment by these slopes. `usual`: levels of frames that follow the yardstick as usual.
LevelAdjustment adjustment_by(const Slopes& slopes, const Table& usual, const Table& raised, const Table& present) {
  const auto weights_of = [](const Table& level) { return (1 / (1 + (level / level_that_halves).square())).eval(); };
  const auto of_visits = [&](const Table& weights) { return (present > 0).select(weights, 0.0).eval(); };
  LevelAdjustment adjustment;
  adjustment.below_bend = slopes.values(0);
  adjustment.beyond_bend = slopes.values(1);
  adjustment.bend_deviation = std::sqrt(slopes.variance(0, 0) + slopes.variance(1, 1) - 2 * slopes.variance(0, 1));
  const double slope = slopes.values.dot(shares_of_way(usual, of_visits(weights_of(usual))));
  adjustment.level = raised.size() > 0 ? (usual + (slope / usual_slope - 1) * raised).eval() : usual;
  adjustment.weight = weights_of(adjustment.level);
  const Table weights = of_visits(adjustment.weight);
  const Eigen::Vector2d shares = shares_of_way(adjustment.level, weights);
  adjustment.slope = slopes.values.dot(shares);
  adjustment.prior_deviation = std::sqrt(shares.dot(Slopes::prior_variance() * shares));
  adjustment.trust = 1 - std::sqrt(shares.dot(slopes.left * shares)) / adjustment.prior_deviation;
  adjustment.mean_level = mean_over_visits(adjustment.level, weights);
  if (raised.size() > 0) adjustment.mean_raised = slope / usual_slope * mean_over_visits(raised, weights);
  return adjustment;
}

}  // namespace

LevelTables LevelTables::without_column(Eigen::Index column) const {
  if (!are_known()) return {};
  return {mileage::without_column(level, column), mileage::without_column(one_half, column),
          mileage::without_column(other_half, column),
          raised.size() > 0 ? mileage::without_column(raised, column) : raised, apart_ms};
}

double LevelAdjustment::log_slower_at(double at) const {
  return parts_of(at).dot(Eigen::Vector2d(below_bend, beyond_bend));
}

double LevelAdjustment::log_bent_between(double low, double high) const {
  if (low >= level_of_bend || high <= level_of_bend) return 0;
  const double bend = std::max(0.0, std::fabs(below_bend - beyond_bend) - bend_deviation);
  return bend * (level_of_bend - low) * (high - level_of_bend) / (high - low);
}

double LevelAdjustment::taken_off() const { return -std::expm1(-slope * mean_level); }

double LevelAdjustment::slope_deviation() const {
  return std::hypot((1 - trust) * prior_deviation, left_of_places(trust) * line_deviation);
}

/// The raised part is one of the slope itself, and counts twice.
double LevelAdjustment::told_by_slope() const { return mean_level + mean_raised; }

Table LevelAdjustment::at_fast_level(const Table& log_ms) const {
  if (level.size() == 0) return log_ms;
  return log_ms - level.unaryExpr([this](double at) { return log_slower_at(at); });
}

LevelAdjustment adjustment_of(const Table& log_ms, const LevelTables& levels) {
  const Table present = (log_ms == log_ms).cast<double>();
  if (!levels.are_known() || present.sum() == 0) return {};

  const CalibratedLevel level = calibrated(levels);
  const BentLevel parts = bent(level, present);
  const Table usual = level.table();
  const Eigen::ArrayXd visits = present.colwise().sum().transpose();
  Slopes slopes;
  LevelAdjustment adjustment = adjustment_by(slopes, usual, levels.raised, present);
  for (int round = 0; round < slope_rounds; ++round) {
    const ClippedFit cost = fit_clipped(adjustment.at_fast_level(log_ms));
    const double variance = std::max(cost.noise.variance, least_slope_noise * least_slope_noise);
    // Clipped where the cost lies off the line, and back on the scale of costs as they were measured.
    const Table cost_residuals = cost.clipped_residuals + parts.residuals_by(slopes.values);
    const Eigen::ArrayXd cost_of_blocks = cost.model.block + parts.of_blocks_by(slopes.values);
    const Told within = told_within(cost_residuals, parts, variance);
    const Told between = told_between_blocks(cost_of_blocks, parts, visits, variance);
    slopes = slopes_from({within.squares + between.squares, within.products + between.products});
    adjustment = adjustment_by(slopes, usual, levels.raised, present);
  }
  return adjustment;
}

}  // namespace mileage
