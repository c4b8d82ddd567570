// The two-way table of a series reduced to one value per place on the axis, and the noise of that table.
#pragma once

#include <Eigen/Core>

namespace mileage {

/// Spread that repetition shows after the effects of rows and blocks are taken off.
struct Noise {
  double variance = 0;         ///< On the log scale, of one visit.
  int degrees_of_freedom = 0;  ///< Degrees of freedom; 0 means that the table tells nothing about its noise.
};

/// One value per row of a table.
struct CellMeans {
  Eigen::ArrayXd log_ms;  ///< NaN for a row without any visit.
  Eigen::ArrayXd visits;  ///< Number of blocks that the row rests on.
  Eigen::ArrayXd weight;  ///< The same, but less for rows of one or two visits, in which a spike cannot be told.
  Noise noise;            ///< Divided by the weights, it is the variance of these means.
};

/// Row effects of the additive model "row + block", fitted to the cells that are not NaN, with residuals clipped at two
/// robust standard deviations (Huber), so that a spiked visit pulls little. A table without holes and spikes gives the
/// means over blocks. Their noise is that of the clipped residuals over the square of the share of a row that is not
/// (P. J. Huber, "Robust regression", Annals of Statistics 1, 1973): a residual mean square without clipping would be
/// that of means that spikes pull, several times as large. Deterministic; order of rows and blocks does not matter.
CellMeans cell_means(const Eigen::ArrayXXd& log_ms);

}  // namespace mileage
