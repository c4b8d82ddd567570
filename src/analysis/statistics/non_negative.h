// Least squares whose coefficients are not below zero.
#pragma once

#include <Eigen/Core>

namespace mileage {

/// c >= 0 that makes |terms c - target| least: the best of all choices of columns whose solution has none below zero.
/// At most four columns. Columns that do not differ share what they explain.
Eigen::VectorXd non_negative_least_squares(const Eigen::MatrixXd& terms, const Eigen::VectorXd& target);

}  // namespace mileage
