// Covariances of the joint model, log scale. Integrated Wiener process (cubic smoothing spline): Wahba, Spline Models
// for Observational Data, 1990. Others are products of it, Ornstein-Uhlenbeck processes and Gaussians.
#pragma once

#include <Eigen/Core>

#include "analysis/model/latent_slowdown.h"
#include "analysis/evidence/model_rows.h"

namespace mileage {

/// Log standard deviations, estimated per study.
enum Hyper : int { bend_sd, noise_sd, noise_slowdown_sd, drift_sd, drift_variant_sd, response_count_sd, hyper_count };
using HyperVector = Eigen::Matrix<double, hyper_count, 1>;

/// Rows as arrays; places as distances from the middle of the counts.
struct Inputs {
  Eigen::ArrayXi series, block, kind;
  Eigen::ArrayXd t;  ///< Log place - middle.
  Eigen::ArrayXd log_ms, order, waiting, running, slowdown, slowdown_variance, shared_sd;
  Eigen::ArrayXd runs;  ///< Number that a row is the mean of.
  Eigen::Array<std::int64_t, Eigen::Dynamic, 1> process;
  double middle = 0;  ///< Median log place.
  double full_speed_sd = 0;
  bool are_probed = false;

  Eigen::Index size() const { return t.size(); }
  Inputs of(const std::vector<Eigen::Index>& rows) const;
  /// Means of runs with similar slowdown within a cell and process; about `rows` remain, at least one per cell.
  Inputs condensed(Eigen::Index rows) const;
};
Inputs inputs_of(const std::vector<ModelRow>& rows, const LatentSlowdowns& latent);

/// Step of a series between two neighbouring places (distances from the middle).
struct ModelStep {
  int series = 0;
  double from = 0, to = 0;
  double rise = 0;  ///< Log scale.
};

/// Covariance of rows with others, or with themselves: a sum, weighted by squared hyperparameters.
struct Terms {
  Eigen::MatrixXd fixed, bend, response_count, drift, drift_variant;
};
Terms terms_of(const Inputs& rows, const Inputs& others);

/// Prior mean: linear growth, usual response to slowdown and waiting.
Eigen::VectorXd expected_log_ms(const Inputs& inputs);

/// Up to the knee; and its covariance with that at another log slowdown.
double expected_response(double slowdown);
double response_covariance(double one, double other);
double beyond_knee(double slowdown);

/// Covariances of full-speed curves: places by rows, and places by places.
struct CurvePlaces {
  Eigen::ArrayXi series;
  Eigen::ArrayXd t;
};
Eigen::MatrixXd curve_covariance(const CurvePlaces& one, const CurvePlaces& other, double bend);
Eigen::VectorXd expected_curve(const CurvePlaces& places);
/// 1 above a step, 0 below; within its gap by its middle.
Eigen::VectorXd above_step(const CurvePlaces& places, const ModelStep& step);

}  // namespace mileage
