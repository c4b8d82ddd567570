// The two-way table of a series reduced to one value per place on the axis, and the noise of that table.
#pragma once

#include <Eigen/Core>

namespace mileage {

/// One value per row of a table.
struct CellMeans {
  Eigen::ArrayXd log_ms;  ///< NaN for a row without any visit.
  Eigen::ArrayXd visits;  ///< Number of blocks that the row rests on.
};

/// Row effects of the additive model "row + block", fitted to the cells that are not NaN, with residuals clipped at two
/// robust standard deviations (Huber), so that a spiked visit pulls little. A table without holes and spikes gives the
/// means over blocks. Deterministic; order of rows and blocks does not matter.
CellMeans cell_means(const Eigen::ArrayXXd& log_ms);

/// Spread that repetition shows after the effects of rows and blocks are taken off, without any clipping.
struct Noise {
  double variance = 0;  ///< Residual mean square on the log scale.
  int freedom = 0;      ///< Degrees of freedom; 0 means that the table tells nothing about its noise.
};
Noise replication_noise(const Eigen::ArrayXXd& log_ms);

}  // namespace mileage
