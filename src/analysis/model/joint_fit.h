// The joint model of a study: one Gaussian system for all runs, with Student-t noise.
#pragma once

#include <vector>

#include <Eigen/Core>

#include "analysis/model/kernels.h"

namespace mileage {

class JointFit {
 public:
  /// Needs a row. Hyperparameters are the most likely ones; they are found on 160 rows spread evenly over series and
  /// places where there are more, and curves rest on all rows, or on means of them within cells. 0.15 s for 300, 1 s
  /// for 3,000.
  explicit JointFit(const std::vector<ModelRow>& rows);
  /// The same for any number of cells: series in groups of at most as many cells as a fit takes, with hyperparameters
  /// of all. What groups share, such as drift, is then unknown to both sides of a ratio between them.
  static std::vector<JointFit> in_groups(const std::vector<ModelRow>& rows);

  const Inputs& inputs() const { return inputs_; }
  const std::vector<ModelStep>& steps() const { return steps_; }
  const HyperVector& hyper() const { return hyper_; }
  /// Square root of the posterior covariance of the hyperparameters (Laplace), a column for each direction.
  const Eigen::Matrix<double, hyper_count, hyper_count>& hyper_spread() const { return hyper_spread_; }

  /// Covariance of the rows, noise included.
  Eigen::MatrixXd covariance(const HyperVector& hyper) const;
  /// The same for what is left open: what rows show less by Student's noise, whose weights are themselves estimates
  /// (information of t: K. L. Lange et al., "Robust statistical modeling using the t distribution", 1989).
  Eigen::MatrixXd posterior_covariance(const HyperVector& hyper) const;
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
  /// Of those that the rows speak for most; of series -1 where they speak for none.
  ModelStep strongest_step(const HyperVector& hyper) const;
  /// `around`: the place before a gap and the two beyond it; `alpha`: residuals over the covariance with the step.
  bool is_knee(const CurvePlaces& around, double rise, const Eigen::VectorXd& alpha, const HyperVector& hyper) const;
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
