// The two-way table of a series reduced to one value per place on the axis, and the noise of that table.
#pragma once

#include <vector>

#include <Eigen/Core>

namespace mileage {

/// Spread that repetition shows after the effects of rows and blocks are subtracted.
struct Noise {
  double variance = 0;         ///< On the log scale, of one run.
  int degrees_of_freedom = 0;  ///< Degrees of freedom; 0 means that the table tells nothing about its noise.
};

/// Additive model row + block, blocks averaging to zero over the runs.
struct Additive {
  Eigen::ArrayXd row;
  Eigen::ArrayXd block;
  Eigen::ArrayXXd fitted() const { return row.replicate(1, block.size()) + block.transpose().replicate(row.size(), 1); }
};

/// Least squares of the model for the cells that are not NaN.
Additive fit_additive(const Eigen::ArrayXXd& table);
/// The same of several tables of one shape, each cell by its weight; 0: there is no run.
std::vector<Additive> fit_additive(const std::vector<Eigen::ArrayXXd>& tables, const Eigen::ArrayXXd& weights);

/// The model fitted with residuals clipped at two robust standard deviations.
struct ClippedFit {
  Additive model;
  Eigen::ArrayXXd clipped_residuals;  ///< 0 where there is no run.
  Noise noise;                        ///< Of the residuals, less what clipping takes away.
  double plain_variance = 0;          ///< Of the residuals of a fit without any clipping.
};
/// `weights`: how much each cell tells, in [0, 1]; empty where all tell the same.
ClippedFit fit_clipped(const Eigen::ArrayXXd& table, const Eigen::ArrayXXd& weights = {});

/// A table of the same rows without one of its columns.
Eigen::ArrayXXd without_column(const Eigen::ArrayXXd& table, Eigen::Index column);

/// One value per row of a table.
struct CellMeans {
  Eigen::ArrayXd log_ms;  ///< NaN for a row without any run.
  Eigen::ArrayXd runs;    ///< Number of blocks that the row rests on.
  Eigen::ArrayXd weight;  ///< The sum of their weights, but less for one or two runs, in which no spike is known.
  Noise noise;            ///< Divided by the weights, it is the variance of these means.
};

/// Row effects of the additive model "row + block", fitted to the cells that are not NaN, with residuals clipped at two
/// robust standard deviations (Huber), so that a spiked run pulls little. A table without holes and spikes gives the
/// means over blocks. Their noise is that of the clipped residuals over the square of the share of a row that is not
/// (P. J. Huber, "Robust regression", Annals of Statistics 1, 1973): a residual mean square without clipping would be
/// that of means that spikes pull, several times as large. Deterministic; order of rows and blocks does not matter.
/// `weights`: how much each cell tells, in [0, 1]; empty where all tell the same.
CellMeans cell_means(const Eigen::ArrayXXd& log_ms, const Eigen::ArrayXXd& weights = {});

}  // namespace mileage
