#include "analysis/statistics/non_negative.h"

#include <vector>

#include <Eigen/QR>

namespace mileage {

Eigen::VectorXd non_negative_least_squares(const Eigen::MatrixXd& terms, const Eigen::VectorXd& target) {
  Eigen::VectorXd best = Eigen::VectorXd::Zero(terms.cols());
  double least = target.squaredNorm();
  for (unsigned choice = 1; choice < (1U << terms.cols()); ++choice) {
    std::vector<Eigen::Index> taken;
    for (Eigen::Index term = 0; term < terms.cols(); ++term)
      if ((choice >> term) & 1U) taken.push_back(term);
    const Eigen::MatrixXd chosen = terms(Eigen::all, taken);
    const Eigen::VectorXd found = chosen.completeOrthogonalDecomposition().solve(target);
    const double squares = (chosen * found - target).squaredNorm();
    if (found.minCoeff() < 0 || squares >= least) continue;
    least = squares;
    best.setZero();
    best(taken) = found;
  }
  return best;
}

}  // namespace mileage
