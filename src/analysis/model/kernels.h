// Covariances of the joint model, log scale. Sources: the integrated Wiener process (a cubic smoothing spline) is in
// Wahba, Spline Models for Observational Data, 1990; the other terms are products of it, Ornstein-Uhlenbeck processes
// and Gaussians.
#pragma once

#include <Eigen/Core>

#include "analysis/model/latent_slowdown.h"
#include "analysis/model/rows.h"

namespace mileage {

/// Logarithms of what a study does not fix beforehand. Standard deviations, log scale.
enum Hyper : int { bend_sd, noise_sd, noise_slowdown_sd, drift_sd, drift_variant_sd, response_count_sd, hyper_count };
using HyperVector = Eigen::Matrix<double, hyper_count, 1>;

/// Rows as arrays, and their distance from the middle of the counts.
struct Inputs {
  Eigen::ArrayXi series, block, kind;
  Eigen::ArrayXd t;  ///< Log place less its median.
  Eigen::ArrayXd log_ms, order, waiting, running, slowdown, slowdown_variance, shared_sd;
  Eigen::ArrayXd runs;  ///< That a row is the mean of.
  Eigen::Array<std::int64_t, Eigen::Dynamic, 1> process;
  double middle = 0;  ///< The median of the log places.
  double full_speed_sd = 0;
  bool are_probed = false;

  Eigen::Index size() const { return t.size(); }
  /// Of some rows alone.
  Inputs of(const std::vector<Eigen::Index>& rows) const;
  /// Means of runs of one cell and process at a like slowdown, so that about `rows` are left; one per cell at least.
  Inputs condensed(Eigen::Index rows) const;
};
Inputs inputs_of(const std::vector<ModelRow>& rows, const LatentSlowdowns& latent);

/// A step of one series within a gap between two of its places (distances from the middle).
struct ModelStep {
  int series = 0;
  double from = 0, to = 0;
  double rise = 0;  ///< Log scale.
};

/// Matrices whose sum, with the squares of hyperparameters as factors, is the covariance of rows.
struct Terms {
  Eigen::MatrixXd fixed, bend, response_count, drift, drift_variant;
};
Terms terms_of(const Inputs& inputs);

/// Expected log ms of rows: a linear curve, and the usual response to slowdown and waiting.
Eigen::VectorXd expected_log_ms(const Inputs& inputs);

/// The response to a log slowdown up to the knee, and its covariance with that at another.
double expected_response(double slowdown);
double response_covariance(double one, double other);
/// How far a slowdown is beyond the knee.
double beyond_knee(double slowdown);

/// Covariances of curves at full speed between places of some series (columns) and rows; and among such places.
struct CurvePlaces {
  Eigen::ArrayXi series;
  Eigen::ArrayXd t;
};
Eigen::MatrixXd curve_covariance(const CurvePlaces& one, const CurvePlaces& other, double bend);
Eigen::VectorXd expected_curve(const CurvePlaces& places);
/// Whether places are above a step (as a share in [0, 1] where they are inside its gap: above its middle).
Eigen::VectorXd above_step(const CurvePlaces& places, const ModelStep& step);

}  // namespace mileage
