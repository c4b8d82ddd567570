// Solutions of linear systems. Decompositions are dear to compile: they are compiled once, here.
#pragma once

#include <Eigen/Core>
#include <Eigen/QR>

#include "analysis/statistics/constants.h"

namespace mileage {

/// Systems of a few unknowns, as laws have them. They take no memory from the heap.
using SmallVector = Eigen::Matrix<double, Eigen::Dynamic, 1, Eigen::ColMajor, law_parameters, 1>;
using SmallSquare =
    Eigen::Matrix<double, Eigen::Dynamic, Eigen::Dynamic, Eigen::ColMajor, law_parameters, law_parameters>;

/// x with `symmetric` x = `right`; not finite where there is none.
SmallVector solution_of(const SmallSquare& symmetric, const SmallVector& right);

/// x that makes |matrix x - target| least, and of several such the shortest. Factorises once, for any number of
/// targets.
class LeastSquares {
 public:
  explicit LeastSquares(const Eigen::MatrixXd& matrix);
  /// `target` has a row for each row of the matrix.
  Eigen::VectorXd operator()(const Eigen::VectorXd& target) const;

 private:
  Eigen::CompleteOrthogonalDecomposition<Eigen::MatrixXd> factors_;
};

}  // namespace mileage
