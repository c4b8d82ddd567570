// Joint model of a study: one Gaussian system for all runs, with Student-t noise.
#pragma once

#include <vector>

#include <Eigen/Core>

#include "analysis/model/kernels.h"

namespace mileage {

class JointFit {
 public:
  /// Needs a row. Finds hyperparameters on up to 160 rows spread evenly, curves on all rows or means within cells. 0.15
  /// s for 300 rows, 1 s for 3,000.
  explicit JointFit(const std::vector<ModelRow>& rows);
  /// With the hyperparameters of a fit to fewer of these rows; a fifth of the time.
  JointFit(const std::vector<ModelRow>& rows, const JointFit& part);
  /// For any number of cells: groups of series share hyperparameters. What series of different groups share, such as
  /// drift, does not cancel in their ratios.
  static std::vector<JointFit> in_groups(const std::vector<ModelRow>& rows);

  const Inputs& inputs() const { return inputs_; }
  const std::vector<ModelStep>& steps() const { return steps_; }
  const HyperVector& hyper() const { return hyper_; }
  /// Square root of the posterior covariance of the hyperparameters (Laplace).
  const Eigen::Matrix<double, hyper_count, hyper_count>& hyper_spread() const { return hyper_spread_; }

  /// Of rows, noise included.
  Eigen::MatrixXd covariance(const HyperVector& hyper) const;
  /// The same with noise inflated for estimated weights (information of t: K. L. Lange et al., "Robust statistical
  /// modeling using the t distribution", 1989).
  Eigen::MatrixXd posterior_covariance(const HyperVector& hyper) const;
  /// Runs not made yet, as slow as the others on average, in a block and process of their own. Covariances without
  /// noise.
  struct FurtherRuns {
    Eigen::MatrixXd with_rows, among;
    Eigen::VectorXd noise;
  };
  FurtherRuns further_runs(const CurvePlaces& places) const;
  /// Log costs minus prior means.
  const Eigen::VectorXd& residuals() const { return residuals_; }
  /// Up to a constant; -infinity without a Cholesky factor.
  double log_posterior(const HyperVector& hyper, HyperVector* gradient = nullptr) const;

 private:
  explicit JointFit(Inputs inputs);
  void fit_hyper();
  void fit_to(const JointFit& part);
  void climb(int iterations);
  void find_steps();
  /// The step with most evidence; series -1 if none has enough.
  ModelStep strongest_step(const HyperVector& hyper) const;
  /// `around`: the place before a gap and the two after it; `alpha`: inverse covariance with the step times residuals.
  bool is_knee(const CurvePlaces& around, double rise, const Eigen::VectorXd& alpha, const HyperVector& hyper) const;
  /// Updates Student-t weights and the slopes that turn slowdown errors into cost errors.
  void reweigh();
  void spread_hyper();
  Eigen::VectorXd noise(const HyperVector& hyper) const;
  Eigen::VectorXd full_speed_error() const;
  /// Without noise.
  Eigen::MatrixXd shared_with(const JointFit& other, const Terms& terms, const HyperVector& hyper) const;

  Inputs inputs_;
  Terms terms_;
  Eigen::VectorXd residuals_;
  Eigen::VectorXd weights_;           ///< Of Student's t, near 1.
  Eigen::VectorXd slope_;             ///< d log cost / d log slowdown at the run's slowdown,
  Eigen::VectorXd full_speed_slope_;  ///< and between it and full speed.
  std::vector<ModelStep> steps_;
  HyperVector hyper_;
  Eigen::Matrix<double, hyper_count, hyper_count> hyper_spread_;
};

}  // namespace mileage
