// What the runs leave open, as curves: each draw is one curve per series at full speed that fits them. Every answer is
// a quantile of draws.
#pragma once

#include <cstdint>
#include <vector>

#include <Eigen/Core>

#include "analysis/model/joint_fit.h"

namespace mileage {

/// Log ms of each series: a row for each draw, a column for each of its places. Draws of one number belong together
/// over all series.
using Draws = std::vector<Eigen::MatrixXd>;

/// `log_x`: the places of each series; those that the fit has no rows of are left empty. The same fit and seed give the
/// same draws. Each draw is a curve of the prior, corrected by what the runs differ from it and from noise of the prior
/// (Matheron's rule; J. T. Wilson et al., Pathwise Conditioning of Gaussian Processes, 2021).
Draws draw_curves(const JointFit& fit, const std::vector<std::vector<double>>& log_x, int count = 1000,
                  std::uint64_t seed = 1);

}  // namespace mileage
