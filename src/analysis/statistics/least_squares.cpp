#include "analysis/statistics/least_squares.h"

#include <Eigen/Cholesky>

namespace mileage {

SmallVector solution_of(const SmallSquare& symmetric, const SmallVector& right) {
  return symmetric.ldlt().solve(right);
}

LeastSquares::LeastSquares(const Eigen::MatrixXd& matrix) : factors_(matrix) {}

Eigen::VectorXd LeastSquares::operator()(const Eigen::VectorXd& target) const { return factors_.solve(target); }

}  // namespace mileage
