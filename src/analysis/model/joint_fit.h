// The joint model of a study: one Gaussian system for all runs, with Student-t noise.
#pragma once

#include <vector>

#include <Eigen/Core>

#include "analysis/model/kernels.h"

namespace mileage {

class JointFit {
 public:
  /// Needs a row; rows have probes all or none. Hyperparameters are the most likely ones; they are found on 160 rows
  /// spread evenly over series and places where there are more, and curves rest on all rows. Cubic in the number of
  /// rows: 0.1 s for 300.
  explicit JointFit(const std::vector<ModelRow>& rows);

  const Inputs& inputs() const { return inputs_; }
  const std::vector<ModelStep>& steps() const { return steps_; }
  const HyperVector& hyper() const { return hyper_; }
  /// Square root of the posterior covariance of the hyperparameters (Laplace), a column for each direction.
  const Eigen::Matrix<double, hyper_count, hyper_count>& hyper_spread() const { return hyper_spread_; }

  /// Covariance of the rows, noise included.
  Eigen::MatrixXd covariance(const HyperVector& hyper) const;
  /// Log costs less what is expected of them.
  const Eigen::VectorXd& residuals() const { return residuals_; }
  /// Log posterior of hyperparameters, up to a constant; -infinity where the covariance has no Cholesky factor. Its
  /// gradient where that is asked for.
  double log_posterior(const HyperVector& hyper, HyperVector* gradient = nullptr) const;

 private:
  explicit JointFit(Inputs inputs);
  void fit_hyper();
  void fit_to(const JointFit& part);
  void climb(int iterations);
  void find_steps();
  /// Weights of Student's t, and the slopes by which errors of slowdown become errors of costs.
  void reweigh();
  void spread_hyper();
  Eigen::VectorXd noise(const HyperVector& hyper) const;

  Inputs inputs_;
  Terms terms_;
  Eigen::VectorXd residuals_;
  Eigen::VectorXd weights_;           ///< Of Student's t, about 1.
  Eigen::VectorXd slope_;             ///< Of log cost over log slowdown, where the run is,
  Eigen::VectorXd full_speed_slope_;  ///< and between that and full speed.
  std::vector<ModelStep> steps_;
  HyperVector hyper_;
  Eigen::Matrix<double, hyper_count, hyper_count> hyper_spread_;
};

}  // namespace mileage
