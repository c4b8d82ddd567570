// Draws of full-speed curves from the posterior. Every answer is a quantile of draws.
#pragma once

#include <cstdint>
#include <vector>

#include <Eigen/Core>

#include "analysis/model/joint_fit.h"

namespace mileage {

/// Log ms by series: draws by places. Draws with the same number belong together across series.
using Draws = std::vector<Eigen::MatrixXd>;

/// `log_x`: places by series; empty for series without rows. Deterministic by seed. Prior draws corrected by the
/// difference between runs and simulated runs (Matheron's rule; J. T. Wilson et al., Pathwise Conditioning of Gaussian
/// Processes, 2021).
Draws draw_curves(const JointFit& fit, const std::vector<std::vector<double>>& log_x, int count = 1000,
                  std::uint64_t seed = 1);

}  // namespace mileage
