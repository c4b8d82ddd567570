#include "analysis/statistics/slowdown_correction.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include <Eigen/Cholesky>

#include "analysis/statistics/cell_means.h"
#include "analysis/statistics/constants.h"

namespace mileage {
namespace {

using Table = Eigen::ArrayXXd;

/// What is left of a table without the effects of rows and blocks, 0 where there is no run.
Table residuals_of(const Table& table, const Additive& model) {
  return (table == table).select(table - model.fitted(), 0.0);
}

/// The slowdowns as far as they are reliable. Probes see moments between the frames, and not the frames themselves:
/// what both halves share of the residuals is the machine's, the rest is chance, and is shrunk away.
struct CalibratedSlowdown {
  Additive model;
  Table residuals;  ///< Shrunk.
  Table table() const { return model.fitted() + residuals; }
};

/// Blocks of few runs are moved by chance as single runs are: what both halves share of them stays.
Eigen::ArrayXd calibrated_blocks(const Eigen::ArrayXd& plain, const Eigen::ArrayXd& one, const Eigen::ArrayXd& other) {
  const double mean = plain.mean();
  const double squares = (plain - mean).square().sum();
  if (squares <= 0) return plain;
  const double shared = ((one - one.mean()) * (other - other.mean())).sum();
  const double drawn = blocks_for_reliability * squares / static_cast<double>(plain.size());
  return mean + std::clamp((shared + drawn) / (squares + drawn), 0.0, 1.0) * (plain - mean);
}

/// How much rows have each other: probes see frames alike that run alike long between them.
Eigen::MatrixXd likeness_of(const SlowdownTables& slowdowns) {
  const Eigen::Index rows = slowdowns.slowdown.rows();
  if (slowdowns.probe_spacing_ms.size() == 0) return Eigen::MatrixXd::Identity(rows, rows);
  const Eigen::ArrayXd apart = slowdowns.probe_spacing_ms.log() / std::log(2.0);
  const Table distance = apart.replicate(1, rows) - apart.transpose().replicate(rows, 1);
  return (1 / (1 + distance.square())).matrix();
}

/// Share of what a slowdown has the machine during its run, by row. Both halves of the probes tell how much of it
/// they share; frames that run beside a probe without a change of the machine are seen by that one alone.
Eigen::ArrayXd reliability_of_rows(const SlowdownTables& slowdowns, const Table& shared, const Table& squares) {
  const double runs = (slowdowns.slowdown == slowdowns.slowdown).cast<double>().sum();
  const double drawn = runs_for_reliability * squares.sum() / runs;
  const double whole = shared.sum() / squares.sum();
  const Eigen::MatrixXd likeness = likeness_of(slowdowns);
  const Eigen::ArrayXd shared_by = likeness * shared.rowwise().sum().matrix();
  const Eigen::ArrayXd squares_by = likeness * squares.rowwise().sum().matrix();
  const Eigen::ArrayXd by_halves = ((shared_by + drawn * whole) / (squares_by + drawn)).max(0.0).min(1.0);
  if (slowdowns.probe_spacing_ms.size() == 0) return by_halves;
  const Eigen::ArrayXd beside = seen_beside_probes * states_last_ms / (states_last_ms + slowdowns.probe_spacing_ms);
  return by_halves + beside * (1 - by_halves);
}

CalibratedSlowdown calibrated(const SlowdownTables& slowdowns) {
  CalibratedSlowdown slowdown{fit_additive(slowdowns.slowdown), {}};
  const Additive model_of_one = fit_additive(slowdowns.one_half), model_of_other = fit_additive(slowdowns.other_half);
  const Table plain = residuals_of(slowdowns.slowdown, slowdown.model);
  const Table one = residuals_of(slowdowns.one_half, model_of_one);
  const Table other = residuals_of(slowdowns.other_half, model_of_other);
  slowdown.model.block = calibrated_blocks(slowdown.model.block, model_of_one.block, model_of_other.block);
  const Table squares = plain.square();
  slowdown.residuals = plain;
  if (squares.sum() > 0) slowdown.residuals.colwise() *= reliability_of_rows(slowdowns, one * other, squares);
  return slowdown;
}

/// What a slowdown is above 0 up to the bend, or beyond it.
Table below_bend(const Table& slowdown) { return slowdown.min(bend_slowdown); }
Table beyond_bend(const Table& slowdown) { return (slowdown - bend_slowdown).max(0.0); }

/// What costs follow the slowdown by: both parts of it with the slopes of the whole series, and the whole of it with
/// what the slopes of rows differ by, as independent parts of standard deviation 1.
class Regressors {
 public:
  Regressors(const Table& slowdown, const Eigen::MatrixXd& of_places)
      : tables_{below_bend(slowdown), beyond_bend(slowdown)} {
    for (Eigen::Index part = 0; part < of_places.cols(); ++part)
      tables_.push_back(slowdown.colwise() * of_places.col(part).array());
  }

  const std::vector<Table>& tables() const { return tables_; }

  /// What all of them make of the cost.
  Table by(const Eigen::VectorXd& slopes) const {
    Table sum = slopes(0) * tables_[0];
    for (std::size_t i = 1; i < tables_.size(); ++i) sum += slopes(static_cast<Eigen::Index>(i)) * tables_[i];
    return sum;
  }

 private:
  std::vector<Table> tables_;
};

/// Rows of it times independent numbers of standard deviation 1: what the slopes of rows differ by.
Eigen::MatrixXd slopes_of_places(const SlowdownTables& slowdowns) {
  const Eigen::Index rows = slowdowns.slowdown.rows();
  const Eigen::ArrayXd log_x = slowdowns.log_x.size() > 0 ? slowdowns.log_x : Eigen::ArrayXd::Zero(rows).eval();
  const Table apart = (log_x.replicate(1, rows) - log_x.transpose().replicate(rows, 1)) / std::log(slopes_alike_within);
  Eigen::MatrixXd alike = (-apart.square() / 2).exp().matrix();
  alike.diagonal().array() += min_independent_slope_variance_share;
  return place_slope_sd * Eigen::MatrixXd(alike.llt().matrixL());
}

/// Slopes of all regressors, and what is uncertain of them.
struct Slopes {
  Eigen::VectorXd values;
  Eigen::MatrixXd variance;
  Eigen::MatrixXd left;  ///< The part of it that is the prior's; the rest is chance of runs.

  static Eigen::VectorXd prior(Eigen::Index size) {
    Eigen::VectorXd prior = Eigen::VectorXd::Zero(size);
    prior.head(2) << slope_prior_mean, slope_prior_mean_beyond_bend;
    return prior;
  }
  static Eigen::VectorXd prior_variance(Eigen::Index size) {
    Eigen::VectorXd variance = Eigen::VectorXd::Ones(size);
    variance.head(2) << slope_prior_sd * slope_prior_sd, slope_prior_sd_beyond_bend * slope_prior_sd_beyond_bend;
    return variance;
  }
  static Slopes before_any_run(Eigen::Index size) {
    const Eigen::MatrixXd variance = prior_variance(size).asDiagonal();
    return {prior(size), variance, variance};
  }
};

/// A regression on a table of runs whose rows may lie anywhere and whose blocks differ by chance
/// (block_sd_beside_slowdown).
class MixedRegression {
 public:
  MixedRegression(const Regressors& regressors, const Table& present)
      : present_(present),
        runs_of_rows_(present.rowwise().sum().max(1)),
        in_rows_(present.size(), static_cast<Eigen::Index>(regressors.tables().size())),
        in_blocks_(present.cols(), in_rows_.cols()) {
    for (Eigen::Index i = 0; i < in_rows_.cols(); ++i) {
      const Table centred = beside_rows(regressors.tables()[static_cast<std::size_t>(i)]);
      in_rows_.col(i) = centred.reshaped();
      in_blocks_.col(i) = centred.colwise().sum().transpose();
    }
    products_ = in_rows_.transpose() * in_rows_;
    blocks_ = present.colwise().sum().matrix().asDiagonal();
    blocks_ -= present.matrix().transpose() * (present.colwise() / runs_of_rows_).matrix();
  }

  /// The means of the priors and of what the runs tell, each as sure as it is. `variance`: of a run.
  Slopes operator()(const Table& costs, double variance) const {
    const Table centred = beside_rows(costs);
    Eigen::MatrixXd told = products_;
    Eigen::VectorXd products = in_rows_.transpose() * centred.reshaped().matrix();
    if (blocks_differ()) {
      Eigen::MatrixXd blocks = blocks_;
      blocks.diagonal().array() += variance / (block_sd_beside_slowdown * block_sd_beside_slowdown);
      const Eigen::MatrixXd by_blocks = blocks.ldlt().solve(in_blocks_);
      told -= in_blocks_.transpose() * by_blocks;
      products -= by_blocks.transpose() * centred.colwise().sum().matrix().transpose();
    }
    const Eigen::VectorXd prior_told = Slopes::prior_variance(told.cols()).cwiseInverse();
    Eigen::MatrixXd sure = told / variance;
    sure.diagonal() += prior_told;
    const Eigen::VectorXd sum = products / variance + prior_told.cwiseProduct(Slopes::prior(told.cols()));
    Slopes slopes;
    slopes.variance = sure.ldlt().solve(Eigen::MatrixXd::Identity(told.cols(), told.cols()));
    slopes.values = slopes.variance * sum;
    slopes.left = slopes.variance * prior_told.asDiagonal() * slopes.variance;
    return slopes;
  }

 private:
  /// Where no block holds two runs, nothing tells what a block does from what its runs do.
  bool blocks_differ() const { return (present_.colwise().sum() > 1).any(); }

  Table beside_rows(const Table& table) const {
    const Table there = (present_ > 0).select(table, 0.0);
    return present_ * (there.colwise() - there.rowwise().sum() / runs_of_rows_);
  }

  Table present_;
  Eigen::ArrayXd runs_of_rows_;
  Eigen::MatrixXd in_rows_;    ///< Regressors less their means of rows, a column each.
  Eigen::MatrixXd in_blocks_;  ///< The same summed over blocks.
  Eigen::MatrixXd products_;
  Eigen::MatrixXd blocks_;  ///< What the blocks are known by, once rows are subtracted.
};

/// What a slowdown is above 0 up to the bend, and beyond it.
Eigen::Vector2d parts_of(double slowdown) {
  return {std::min(slowdown, bend_slowdown), std::max(slowdown - bend_slowdown, 0.0)};
}

/// Mean over the runs, each as much as it tells.
double mean_over_runs(const Table& table, const Table& weights) {
  return (weights > 0).select(table * weights, 0.0).sum() / weights.sum();
}

/// Shares of the way from the mean slowdown to 0 that lie below the bend and beyond it.
Eigen::Vector2d shares_of_way(const Table& slowdown, const Table& weights) {
  const Eigen::Vector2d means(mean_over_runs(below_bend(slowdown), weights),
                              mean_over_runs(beyond_bend(slowdown), weights));
  return means.sum() > min_mean_level ? (means / means.sum()).eval() : Eigen::Vector2d(1, 0);
}

Table weights_of(const Table& slowdown, const Table& present) {
  return (present > 0).select(1 / (1 + (slowdown / half_weight_slowdown).square()), 0.0);
}

/// Of both slopes of each row.
std::vector<Eigen::Matrix2d> covariance_of_rows(const Slopes& slopes, const Eigen::MatrixXd& of_places) {
  std::vector<Eigen::Matrix2d> covariance;
  for (Eigen::Index row = 0; row < of_places.rows(); ++row) {
    Eigen::MatrixXd both(2, 2 + of_places.cols());
    both << Eigen::Matrix2d::Identity(), of_places.row(row).replicate(2, 1);
    covariance.emplace_back(both * slopes.left * both.transpose());
  }
  return covariance;
}

/// The slopes of rows on the way from the mean slowdown to 0, as sums of all slopes.
Eigen::MatrixXd ways_of_rows(const Eigen::Vector2d& shares, const Eigen::MatrixXd& of_places) {
  Eigen::MatrixXd implementations(of_places.rows(), 2 + of_places.cols());
  implementations << shares.transpose().replicate(of_places.rows(), 1), of_places;
  return implementations;
}

/// The adjustment by these slopes. `usual`: slowdowns of frames that follow the yardstick as usual.
SlowdownCorrection adjustment_by(const Slopes& slopes, const Table& usual, const SlowdownTables& slowdowns,
                                 const Eigen::MatrixXd& of_places, const Table& present) {
  SlowdownCorrection adjustment;
  const Eigen::ArrayXd of_rows = of_places * slopes.values.tail(of_places.cols());
  adjustment.below_bend = slopes.values(0) + of_rows;
  adjustment.beyond_bend = slopes.values(1) + of_rows;
  adjustment.bend_sd = std::sqrt(slopes.variance(0, 0) + slopes.variance(1, 1) - 2 * slopes.variance(0, 1));
  adjustment.slowdown = usual;
  if (slowdowns.mean_excess.size() > 0) {
    const Eigen::MatrixXd implementations = ways_of_rows(shares_of_way(usual, weights_of(usual, present)), of_places);
    adjustment.slowdown +=
        slowdowns.mean_excess.colwise() * ((implementations * slopes.values).array() / usual_slope - 1);
  }
  adjustment.weight = 1 / (1 + (adjustment.slowdown / half_weight_slowdown).square());
  return adjustment;
}

/// What is uncertain of costs at slowdown 0, once all else is known. Costs of rows also rest on the blocks that they
/// share with others. The raised part of a slowdown is one of the slope itself, and counts twice.
void estimate_uncertainties(const Slopes& slopes, const SlowdownTables& slowdowns, const Eigen::MatrixXd& of_places,
                            const Table& present, SlowdownCorrection& adjustment) {
  const Table weights = (present > 0).select(adjustment.weight, 0.0);
  const Eigen::MatrixXd implementations = ways_of_rows(shares_of_way(adjustment.slowdown, weights), of_places);
  const Eigen::VectorXd share_of_rows = weights.rowwise().sum() / weights.sum();
  const Eigen::VectorXd mean_way = implementations.transpose() * share_of_rows;
  adjustment.mean_slowdown = mean_over_runs(adjustment.slowdown, weights);
  const double mean_of_all = mean_over_runs(adjustment.slowdown, present);
  adjustment.unexplained_variance =
      std::clamp(unexplained_by_slowdown * (mean_of_all - unexplained_from), 0.0, max_unexplained);
  adjustment.slope = slopes.values.dot(mean_way);
  adjustment.slope_covariance = covariance_of_rows(slopes, of_places);
  const double before = mean_way.cwiseAbs2().dot(Slopes::prior_variance(mean_way.size()));
  adjustment.trust = 1 - std::sqrt(mean_way.dot(slopes.left * mean_way) / before);

  Table told = adjustment.slowdown;
  if (slowdowns.mean_excess.size() > 0)
    told += slowdowns.mean_excess.colwise() * ((implementations * slopes.values).array() / usual_slope);
  const Regressors regressors(told, of_places);
  Eigen::MatrixXd moved(present.rows(), mean_way.size());
  std::vector<Table> tables = regressors.tables();
  tables.push_back(told);
  const std::vector<Additive> models = fit_additive(tables, weights);
  for (Eigen::Index i = 0; i < moved.cols(); ++i) moved.col(i) = models[static_cast<std::size_t>(i)].row;
  const Eigen::ArrayXd slowdown = models.back().row;
  const Eigen::ArrayXd beyond_uncertainty =
      (1 - (min_full_speed_sd / slowdown.abs().max(min_full_speed_sd)).square()).sqrt();
  moved = beyond_uncertainty.matrix().asDiagonal() * moved;
  adjustment.cost_covariance = moved * slopes.left * moved.transpose();
  adjustment.row_covariance = moved * slopes.variance * moved.transpose();
}

}  // namespace

SlowdownTables SlowdownTables::without_column(Eigen::Index column) const {
  if (!are_known()) return {};
  return {mileage::without_column(slowdown, column),
          mileage::without_column(one_half, column),
          mileage::without_column(other_half, column),
          mean_excess.size() > 0 ? mileage::without_column(mean_excess, column) : mean_excess,
          probe_spacing_ms,
          log_x};
}

double usual_log_slower_at(double slowdown) { return parts_of(slowdown).dot(Slopes::prior(2)); }

double usual_slower_sd_at(double slowdown) {
  const double of_series = parts_of(slowdown).cwiseAbs2().dot(Slopes::prior_variance(2));
  return std::sqrt(of_series + std::pow(place_slope_sd * slowdown, 2));
}

double SlowdownCorrection::log_slower_at(Eigen::Index row, double at) const {
  return slowdown.size() > 0 ? parts_of(at).dot(Eigen::Vector2d(below_bend(row), beyond_bend(row))) : 0;
}

double SlowdownCorrection::slower_sd(Eigen::Index row, double from, double to) const {
  if (slowdown.size() == 0) return 0;
  const Eigen::Vector2d parts = parts_of(to) - parts_of(from);
  return std::sqrt(parts.dot(slope_covariance[static_cast<std::size_t>(row)] * parts));
}

double SlowdownCorrection::log_bent_between(double low, double high) const {
  if (low >= bend_slowdown || high <= bend_slowdown) return 0;
  const double bent = std::fabs((below_bend - beyond_bend).mean());  // the same of all rows
  return std::max(0.0, bent - bend_sd) * (bend_slowdown - low) * (high - bend_slowdown) / (high - low);
}

double SlowdownCorrection::taken_off() const { return -std::expm1(-slope * mean_slowdown); }

Table SlowdownCorrection::at_full_speed(const Table& log_ms) const {
  if (slowdown.size() == 0) return log_ms;
  return log_ms - mileage::below_bend(slowdown).colwise() * below_bend -
         mileage::beyond_bend(slowdown).colwise() * beyond_bend;
}

SlowdownCorrection correct_for_slowdown(const Table& log_ms, const SlowdownTables& slowdowns) {
  const Table present = (log_ms == log_ms).cast<double>();
  if (!slowdowns.are_known() || present.sum() == 0) return {};

  const Table usual = calibrated(slowdowns).table();
  const Eigen::MatrixXd of_places = slopes_of_places(slowdowns);
  const Regressors regressors(usual, of_places);
  const MixedRegression regression(regressors, present);
  Slopes slopes = Slopes::before_any_run(2 + of_places.cols());
  SlowdownCorrection adjustment = adjustment_by(slopes, usual, slowdowns, of_places, present);
  for (int round = 0; round < slope_rounds; ++round) {
    const ClippedFit cost = fit_clipped(adjustment.at_full_speed(log_ms));
    const double variance = std::max(cost.noise.variance, min_slope_noise * min_slope_noise);
    // Clipped where the cost deviates from the line, and back on the scale of costs as they were measured.
    slopes = regression(cost.model.fitted() + cost.clipped_residuals + regressors.by(slopes.values), variance);
    adjustment = adjustment_by(slopes, usual, slowdowns, of_places, present);
  }
  estimate_uncertainties(slopes, slowdowns, of_places, present, adjustment);
  return adjustment;
}

}  // namespace mileage
