// Non-negative least squares.
#pragma once

#include <Eigen/Core>

namespace mileage {

/// Best of all subsets of columns with non-negative solutions; at most four columns. Identical columns share what they
/// explain.
Eigen::VectorXd non_negative_least_squares(const Eigen::MatrixXd& terms, const Eigen::VectorXd& target);

}  // namespace mileage
