// Drift of a series' slowdown that lasts longer than a block: blocks in a row share it, so that their spread tells too
// little.
#pragma once

#include <Eigen/Core>

namespace mileage {

/// Standard error of the slowdown of a whole table, on the log scale, beyond what the spread of its blocks shows. From
/// the residuals of the cells (rows: places, columns: blocks; NaN where there is no run) in the order in which they
/// were measured: their autocovariances are summed up to the first pair of lags that is not positive (Geyer, "Practical
/// Markov chain Monte Carlo", Statistical Science 7, 1992), which gives the variance of their mean, and what leaving
/// out blocks already shows of it is subtracted. 0 where that variance is hardly more than independent runs would
/// have, below three blocks, or below a dozen runs.
double slowdown_drift_error(const Eigen::ArrayXXd& log_ms, const Eigen::ArrayXXd& order);

}  // namespace mileage
