#include "analysis/statistics/level_adjustment.h"

#include <algorithm>
#include <cmath>

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

/// Sums of squares and products that a regression takes, each over the variance of what it is about.
struct Told {
  double squares = 0;
  double products = 0;
};

Told told_within(const Table& cost_residuals, const Table& level_residuals, double variance) {
  return {level_residuals.square().sum() / variance, (level_residuals * cost_residuals).sum() / variance};
}

Told told_between_blocks(const Eigen::ArrayXd& cost, const Eigen::ArrayXd& level, const Eigen::ArrayXd& visits,
                         double variance) {
  Told told;
  const double counting = (visits > 0).cast<double>().sum();
  if (counting < 2) return told;
  const double mean_cost = (visits > 0).select(cost, 0.0).sum() / counting;
  const double mean_level = (visits > 0).select(level, 0.0).sum() / counting;
  for (Eigen::Index block = 0; block < visits.size(); ++block) {
    if (visits(block) == 0) continue;
    const double of_block = block_deviation_beside_level * block_deviation_beside_level + variance / visits(block);
    told.squares += (level(block) - mean_level) * (level(block) - mean_level) / of_block;
    told.products += (level(block) - mean_level) * (cost(block) - mean_cost) / of_block;
  }
  return told;
}

}  // namespace

LevelTables LevelTables::without_column(Eigen::Index column) const {
  if (!are_known()) return {};
  return {mileage::without_column(level, column), mileage::without_column(one_half, column),
          mileage::without_column(other_half, column),
          raised.size() > 0 ? mileage::without_column(raised, column) : raised, apart_ms};
}

double LevelAdjustment::taken_off() const { return -std::expm1(-slope * mean_level); }

double LevelAdjustment::slope_deviation() const {
  const double left_of_places = 1 - trust * (1 - left_by_own_slope);
  return std::hypot((1 - trust) * slope_prior_deviation, left_of_places * line_deviation);
}

/// The raised part is one of the slope itself, and counts twice.
double LevelAdjustment::told_by_slope() const { return mean_level + mean_raised; }

Table LevelAdjustment::at_fast_level(const Table& log_ms) const {
  return level.size() > 0 ? (log_ms - slope * level).eval() : log_ms;
}

LevelAdjustment adjustment_of(const Table& log_ms, const LevelTables& levels) {
  LevelAdjustment adjustment;
  const Table present = (log_ms == log_ms).cast<double>();
  if (!levels.are_known() || present.sum() == 0) return adjustment;
  adjustment.slope = slope_prior;

  const CalibratedLevel level = calibrated(levels);
  const Table usual = level.table();
  const auto seen_with = [&](double slope) {
    return levels.raised.size() > 0 ? (usual + (slope / slope_prior - 1) * levels.raised).eval() : usual;
  };
  const Eigen::ArrayXd visits = present.colwise().sum().transpose();
  const double prior_told = 1 / (slope_prior_deviation * slope_prior_deviation);
  for (int round = 0; round < slope_rounds; ++round) {
    adjustment.level = seen_with(adjustment.slope);
    const ClippedFit cost = fit_clipped(adjustment.at_fast_level(log_ms));
    const double variance = std::max(cost.noise.variance, least_slope_noise * least_slope_noise);
    // Clipped where the cost lies off the line, and back on the scale of costs as they were measured.
    const Table cost_residuals = cost.clipped_residuals + adjustment.slope * level.residuals;
    const Eigen::ArrayXd cost_of_blocks = cost.model.block + adjustment.slope * level.model.block;
    const Told within = told_within(cost_residuals, level.residuals, variance);
    const Told between = told_between_blocks(cost_of_blocks, level.model.block, visits, variance);
    const double told = within.squares + between.squares;
    adjustment.slope = (within.products + between.products + slope_prior * prior_told) / (told + prior_told);
    adjustment.trust = told / (told + prior_told);
  }
  adjustment.level = seen_with(adjustment.slope);
  adjustment.weight = 1 / (1 + (adjustment.level / level_that_halves).square());
  const Table weights = (present > 0).select(adjustment.weight, 0.0);
  const auto mean = [&](const Table& table) {
    return (present > 0).select(table * weights, 0.0).sum() / weights.sum();
  };
  adjustment.mean_level = mean(adjustment.level);
  if (levels.raised.size() > 0) adjustment.mean_raised = adjustment.slope / slope_prior * mean(levels.raised);
  return adjustment;
}

}  // namespace mileage
