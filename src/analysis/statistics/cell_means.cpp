#include "analysis/statistics/cell_means.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <optional>
#include <vector>

#include <Eigen/Core>

#include "analysis/statistics/constants.h"
#include "analysis/statistics/least_squares.h"
#include "analysis/statistics/statistics.h"

namespace mileage {
namespace {

using Table = Eigen::ArrayXXd;

/// Where the table has a run: 1, elsewhere 0.
Table presence(const Table& table) { return (table == table).cast<double>(); }

Table without_holes(const Table& table) { return (table == table).select(table, 0.0); }

Eigen::ArrayXd one_where_zero(const Eigen::ArrayXd& sums) { return (sums > 0).select(sums, 1.0); }

/// Whether anything tells what a block does from what its runs do. Where no block holds two runs, "row + block"
/// fits every table, spikes as well: blocks count as runs then, and the model has rows alone.
bool has_blocks(const Table& present) { return (present.colwise().sum() > 1).any(); }

/// Weighted least squares of the additive model for one table of weights, 0 where there is no run: rows are
/// eliminated, and what remains for the blocks is factorised once.
class AdditiveFit {
 public:
  explicit AdditiveFit(const Table& weights)
      : weights_(weights),
        row_weights_(one_where_zero(weights.rowwise().sum())),
        block_weights_(weights.colwise().sum().transpose()) {
    if (has_blocks((weights > 0).cast<double>())) blocks_.emplace(without_rows());
  }

  Additive operator()(const Table& values) const {
    const Table there = values * weights_;
    const Eigen::ArrayXd row_means = there.rowwise().sum() / row_weights_;
    if (!blocks_) return {row_means, Eigen::ArrayXd::Zero(values.cols())};
    const Eigen::ArrayXd lacking =
        there.colwise().sum().transpose() - (weights_.matrix().transpose() * row_means.matrix()).array();
    Additive model{row_means, (*blocks_)(lacking.matrix()).array()};  // the shortest: only differences are known
    model.block -= (model.block * block_weights_).sum() / block_weights_.sum();
    model.row -= (weights_.matrix() * model.block.matrix()).array() / row_weights_;
    return model;
  }

 private:
  Eigen::MatrixXd without_rows() const {
    const Eigen::MatrixXd share = (weights_.colwise() / row_weights_).matrix();
    const Eigen::MatrixXd blocks = block_weights_.matrix().asDiagonal();
    return blocks - weights_.matrix().transpose() * share;
  }

  Table weights_;
  Eigen::ArrayXd row_weights_;
  Eigen::ArrayXd block_weights_;
  std::optional<LeastSquares> blocks_;  ///< Nothing where blocks are not told.
};

/// Median of one row or column over the cells that are present.
template <class Values, class Present>
double median_present(const Values& values, const Present& present) {
  std::vector<double> there;
  for (Eigen::Index i = 0; i < values.size(); ++i)
    if (present(i) > 0) there.push_back(values(i));
  return there.empty() ? 0 : median(std::move(there));
}

/// A start that spikes do not pull: medians of the blocks' differences from the rows' medians, then of the rows.
Additive start_from_medians(const Table& values, const Table& present) {
  Additive model{Eigen::ArrayXd::Zero(values.rows()), Eigen::ArrayXd::Zero(values.cols())};
  for (Eigen::Index i = 0; i < values.rows(); ++i) model.row(i) = median_present(values.row(i), present.row(i));
  if (!has_blocks(present)) return model;
  const Table from_rows = values - model.fitted();
  for (Eigen::Index j = 0; j < values.cols(); ++j) model.block(j) = median_present(from_rows.col(j), present.col(j));
  const Table from_blocks = values - model.block.transpose().replicate(values.rows(), 1);
  for (Eigen::Index i = 0; i < values.rows(); ++i) model.row(i) = median_present(from_blocks.row(i), present.row(i));
  return model;
}

/// Of the table, where there is a run.
std::vector<double> values_present(const Table& all, const Table& present) {
  std::vector<double> values;
  values.reserve(static_cast<std::size_t>(all.size()));
  for (Eigen::Index j = 0; j < all.cols(); ++j)
    for (Eigen::Index i = 0; i < all.rows(); ++i)
      if (present(i, j) > 0) values.push_back(all(i, j));
  return values;
}

/// Cells that are present less the coefficients that they determine.
int degrees_of_freedom_in(const Table& present) {
  const auto rows = (present.rowwise().sum() > 0).count();
  if (!has_blocks(present)) return std::max(0, static_cast<int>(std::lround(present.sum()) - rows));
  const auto blocks = (present.colwise().sum() > 0).count();
  return std::max(0, static_cast<int>(std::lround(present.sum()) - rows - blocks + 1));
}

/// Rows are taken by themselves: with few blocks, and with noise that differs between rows, a share of the whole table
/// says too little.
Noise noise_of(const Table& differences, const Table& present, const Table& weights, double limit) {
  const int degrees_of_freedom = degrees_of_freedom_in(present);
  if (degrees_of_freedom < 1) return {};
  const Table clipped = differences.max(-limit).min(limit);
  const Eigen::ArrayXd squares = (clipped.square() * weights).rowwise().sum();
  const Eigen::ArrayXd inside = ((clipped == differences).cast<double>() * present).rowwise().sum();
  const Eigen::ArrayXd share = (inside / one_where_zero(present.rowwise().sum())).max(min_share_inside);
  return {(squares / share.square()).sum() / degrees_of_freedom, degrees_of_freedom};
}

/// Huber's estimate by pseudo-values: residuals beyond the limit are pulled in, and the model is fitted again.
ClippedFit clipped_fit(const Table& values, const Table& present, const Table& weights) {
  const AdditiveFit fit(weights);
  Additive model = start_from_medians(values, present);
  for (int round = 0;; ++round) {
    const Table fitted = model.fitted();
    const Table differences = values - fitted;
    const double limit = clip_at_deviations * robust_sd(values_present(differences, present));
    if (limit <= 0) {  // half of the table fits exactly
      model = fit(values);
      const Table rest = values - model.fitted();
      const Noise noise = noise_of(rest, present, weights, HUGE_VAL);
      return {model, rest * present, noise, noise.variance};
    }
    const Eigen::ArrayXd before = model.row;
    const Table clipped = differences.max(-limit).min(limit);
    model = fit(fitted + clipped);
    if (round == clipping_rounds || (model.row - before).abs().maxCoeff() < converged_within)
      return {model, clipped * present, noise_of(differences, present, weights, limit),
              noise_of(values - fit(values).fitted(), present, weights, HUGE_VAL).variance};
  }
}

Table weights_where_present(const Table& weights, const Table& present) {
  return weights.size() > 0 ? (present > 0).select(weights, 0.0).eval() : present;
}

/// A row of one or two runs cannot separate a spike from its value: it is as noisy as spikes make it.
Eigen::ArrayXd weights_of_rows(const Eigen::ArrayXd& weights, const Eigen::ArrayXd& runs, const ClippedFit& fit) {
  if (!(fit.noise.variance < fit.plain_variance)) return weights;
  return (runs < min_runs_for_spikes).select(weights * (fit.noise.variance / fit.plain_variance), weights);
}

}  // namespace

Table without_column(const Table& table, Eigen::Index column) {
  Table rest(table.rows(), table.cols() - 1);
  rest.leftCols(column) = table.leftCols(column);
  rest.rightCols(table.cols() - 1 - column) = table.rightCols(table.cols() - 1 - column);
  return rest;
}

Additive fit_additive(const Table& table) { return AdditiveFit(presence(table))(without_holes(table)); }

std::vector<Additive> fit_additive(const std::vector<Table>& tables, const Table& weights) {
  const AdditiveFit fit(weights);
  std::vector<Additive> models;
  for (const Table& table : tables) models.push_back(fit((weights > 0).select(table, 0.0)));
  return models;
}

ClippedFit fit_clipped(const Table& table, const Table& weights) {
  const Table present = presence(table);
  return clipped_fit(without_holes(table), present, weights_where_present(weights, present));
}

CellMeans cell_means(const Table& log_ms, const Table& weights) {
  const Table present = presence(log_ms);
  const Table weighted = weights_where_present(weights, present);
  const ClippedFit fit = clipped_fit(without_holes(log_ms), present, weighted);
  const Eigen::ArrayXd runs = present.rowwise().sum();
  CellMeans means{fit.model.row, runs, weights_of_rows(weighted.rowwise().sum(), runs, fit), fit.noise};
  for (Eigen::Index i = 0; i < means.log_ms.size(); ++i)
    if (means.runs(i) == 0) means.log_ms(i) = std::numeric_limits<double>::quiet_NaN();
  return means;
}

}  // namespace mileage
