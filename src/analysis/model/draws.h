// What the runs leave open, as curves: each draw is one curve per series at full speed that fits them. Every answer is
// a quantile of draws.
#pragma once

#include <cstdint>
#include <vector>

#include <Eigen/Core>

#include "analysis/model/joint_fit.h"

namespace mileage {

struct Draws {
  std::vector<double> log_x;            ///< Places, ascending.
  std::vector<Eigen::MatrixXd> log_ms;  ///< Of each series: a row for each draw, a column for each place.
};

/// `series`: how many there are. The same seed gives the same draws.
Draws draw_curves(const JointFit& fit, int series, const std::vector<double>& log_x, int count = 1000,
                  std::uint64_t seed = 1);

}  // namespace mileage
