#include "analysis/model/joint_fit.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numeric>
#include <set>
#include <stdexcept>

#include <Eigen/Cholesky>
#include <Eigen/Eigenvalues>
#include <LBFGS.h>

#include "analysis/model/priors.h"

namespace mileage {
namespace {

using Eigen::Index;
using Eigen::MatrixXd;
using Eigen::VectorXd;
using HyperMatrix = Eigen::Matrix<double, hyper_count, hyper_count>;

const prior::LogNormal& prior_of(int hyper) {
  static constexpr prior::LogNormal priors[hyper_count]{prior::bend,
                                                        prior::noise,
                                                        prior::noise_of_slowdown,
                                                        prior::drift,
                                                        prior::drift_of_variant,
                                                        prior::response_along_count};
  return priors[hyper];
}

HyperVector prior_medians() {
  HyperVector medians;
  for (int i = 0; i < hyper_count; ++i) medians(i) = std::log(prior_of(i).median);
  return medians;
}

HyperVector prior_distances(const HyperVector& hyper) {
  HyperVector distances = hyper - prior_medians();
  for (int i = 0; i < hyper_count; ++i) distances(i) /= prior_of(i).log_sd;
  return distances;
}

/// Evenly over series and places, and over blocks within them.
std::vector<Index> spread_rows(const Inputs& inputs, std::size_t wanted) {
  std::vector<Index> rows(static_cast<std::size_t>(inputs.size()));
  std::iota(rows.begin(), rows.end(), Index{0});
  std::stable_sort(rows.begin(), rows.end(), [&](Index a, Index b) {
    return std::pair(inputs.series(a), inputs.t(a)) < std::pair(inputs.series(b), inputs.t(b));
  });
  std::vector<Index> some;
  for (std::size_t i = 0; i < wanted; ++i) some.push_back(rows[i * rows.size() / wanted]);
  std::sort(some.begin(), some.end());
  return some;
}

/// Places of one series, ascending.
std::vector<double> places_of(const Inputs& inputs, int series) {
  std::set<double> places;
  for (Index i = 0; i < inputs.size(); ++i)
    if (inputs.series(i) == series) places.insert(inputs.t(i));
  return {places.begin(), places.end()};
}

}  // namespace

JointFit::JointFit(const std::vector<ModelRow>& rows) : JointFit(inputs_of(rows, latent_slowdowns(rows))) {
  if (inputs_.size() <= prior::max_fitted_rows) {
    fit_hyper();
    return;
  }
  JointFit part(inputs_.of(spread_rows(inputs_, prior::max_fitted_rows)));
  part.fit_hyper();
  fit_to(part);
}

JointFit::JointFit(Inputs inputs)
    : inputs_(std::move(inputs)),
      terms_(terms_of(inputs_)),
      residuals_(inputs_.log_ms.matrix() - expected_log_ms(inputs_)),
      weights_(VectorXd::Ones(inputs_.size())),
      slope_(VectorXd::Constant(inputs_.size(), prior::response_mean)),
      full_speed_slope_(slope_),
      hyper_(prior_medians()),
      hyper_spread_(HyperMatrix::Identity()) {}

void JointFit::fit_hyper() {
  reweigh();
  climb(6);  // a few iterations are enough for weights
  reweigh();
  climb(6);
  reweigh();
  find_steps();
  climb(25);
  reweigh();
  spread_hyper();
}

void JointFit::fit_to(const JointFit& part) {
  hyper_ = part.hyper_;
  hyper_spread_ = part.hyper_spread_;
  reweigh();
  reweigh();
  find_steps();
  reweigh();
}

VectorXd JointFit::noise(const HyperVector& hyper) const {
  const double constant = std::exp(2 * hyper(noise_sd)), of_slowdown = std::exp(2 * hyper(noise_slowdown_sd));
  return (constant + of_slowdown * inputs_.slowdown.square() + slope_.array().square() * inputs_.slowdown_variance);
}

MatrixXd JointFit::covariance(const HyperVector& hyper) const {
  const HyperVector variance = (2 * hyper).array().exp();
  MatrixXd sum = terms_.fixed + variance(bend_sd) * terms_.bend + variance(response_count_sd) * terms_.response_count +
                 variance(drift_sd) * terms_.drift + variance(drift_variant_sd) * terms_.drift_variant;
  const VectorXd error = inputs_.full_speed_sd * full_speed_slope_;
  for (Index j = 0; j < sum.cols(); ++j)
    for (Index i = 0; i < sum.rows(); ++i)
      if (inputs_.kind(i) == inputs_.kind(j)) sum(i, j) += error(i) * error(j);
  for (const ModelStep& step : steps_) {
    const VectorXd above = prior::step_sd * above_step({inputs_.series, inputs_.t}, step);
    sum.noalias() += above * above.transpose();
  }
  sum.diagonal().array() += noise(hyper).array() / weights_.array();
  return sum;
}

double JointFit::log_posterior(const HyperVector& hyper, HyperVector* gradient) const {
  const Eigen::LLT<MatrixXd> factor(covariance(hyper));
  if (factor.info() != Eigen::Success) return -std::numeric_limits<double>::infinity();
  const VectorXd whitened = factor.matrixL().solve(residuals_);
  const HyperVector distances = prior_distances(hyper);
  const double value =
      -0.5 * whitened.squaredNorm() - factor.matrixLLT().diagonal().array().log().sum() - 0.5 * distances.squaredNorm();
  if (gradient == nullptr) return value;
  const VectorXd alpha = factor.matrixU().solve(whitened);
  // d/dh of -1/2 r'Kr - 1/2 log|K| is 1/2 tr((aa' - inverse) dK/dh), and dK/dh is twice a term times its variance.
  MatrixXd inner = factor.solve(MatrixXd::Identity(alpha.size(), alpha.size()));
  inner = alpha * alpha.transpose() - inner;
  const Eigen::ArrayXd diagonal = inner.diagonal().array() / weights_.array();
  const HyperVector variance = (2 * hyper).array().exp();
  const auto by = [&](const MatrixXd& term) { return inner.cwiseProduct(term).sum(); };
  *gradient << by(terms_.bend), diagonal.sum(), (diagonal * inputs_.slowdown.square()).sum(), by(terms_.drift),
      by(terms_.drift_variant), by(terms_.response_count);
  gradient->array() *= variance.array();
  for (int i = 0; i < hyper_count; ++i) (*gradient)(i) -= distances(i) / prior_of(i).log_sd;
  return value;
}

void JointFit::climb(int iterations) {
  LBFGSpp::LBFGSParam<double> how;
  how.max_iterations = iterations;
  how.epsilon = 0.05;  // of a log posterior: far below what changes an answer
  how.epsilon_rel = 0;
  LBFGSpp::LBFGSSolver<double> solver(how);
  HyperVector best = hyper_;
  double best_value = -std::numeric_limits<double>::infinity();
  const auto descend = [&](const VectorXd& at, VectorXd& gradient) {
    HyperVector slope;
    const double value = log_posterior(at, &slope);
    if (!std::isfinite(value)) throw std::runtime_error("no Cholesky factor");
    if (value > best_value) {
      best_value = value;
      best = at;
    }
    gradient = -slope;
    return -value;
  };
  VectorXd at = hyper_;
  double value = 0;
  try {
    solver.minimize(descend, at, value);
  } catch (const std::runtime_error&) {
    // A line search that ends between two values that are alike: the best one counts.
  }
  hyper_ = best;
}

void JointFit::reweigh() {
  const Eigen::LLT<MatrixXd> factor(covariance(hyper_));
  const VectorXd alpha = factor.solve(residuals_);
  const VectorXd variance = noise(hyper_);
  const Eigen::ArrayXd left = variance.array() / weights_.array() * alpha.array();
  weights_ = (prior::noise_df + 1) / (prior::noise_df + left.square() / variance.array());

  // The response of each row's series at its place, as the other rows show it, at any slowdown.
  const Index size = inputs_.size();
  const double own = prior::response_of_variant_sd * prior::response_of_variant_sd;
  const double along = std::exp(2 * hyper_(response_count_sd));
  MatrixXd shared(size, size);
  for (Index j = 0; j < size; ++j)
    for (Index i = 0; i < size; ++i) {
      const bool is_same = inputs_.series(i) == inputs_.series(j);
      const double distance = (inputs_.t(i) - inputs_.t(j)) / prior::response_length;
      shared(i, j) = alpha(j) * (prior::response_sd * prior::response_sd +
                                 (is_same ? own + along * std::exp(-0.5 * distance * distance) : 0));
    }
  const double beyond =
      prior::far_response_sd * prior::far_response_sd * inputs_.slowdown.unaryExpr(&beyond_knee).matrix().dot(alpha);
  const auto response = [&](Index i, double slowdown) {
    double sum = expected_response(slowdown) + beyond * beyond_knee(slowdown);
    for (Index j = 0; j < size; ++j) sum += shared(i, j) * response_covariance(slowdown, inputs_.slowdown(j));
    return sum;
  };
  // Differences over slowdowns that probes do not distinguish; between 0.05 and 1.5, whatever few rows show.
  for (Index i = 0; i < size; ++i) {
    const double above = inputs_.slowdown(i) + 0.15, below = std::max(inputs_.slowdown(i) - 0.15, -0.1);
    slope_(i) = std::clamp((response(i, above) - response(i, below)) / (above - below), 0.05, 1.5);
    full_speed_slope_(i) = std::clamp(response(i, 0.1) / 0.1, 0.05, 1.5);
  }
}

void JointFit::find_steps() {
  const std::set<int> all(inputs_.series.begin(), inputs_.series.end());
  const Places rows{inputs_.series, inputs_.t};
  while (steps_.size() < prior::max_steps) {
    const Eigen::LLT<MatrixXd> factor(covariance(hyper_));
    const VectorXd alpha = factor.solve(residuals_);
    double strongest = prior::step_evidence;
    ModelStep found{-1};
    for (const int series : all) {
      const std::vector<double> places = places_of(inputs_, series);
      for (std::size_t i = 1; i + 2 < places.size(); ++i) {
        const ModelStep step{series, places[i], places[i + 1]};
        if (step.to - step.from > prior::max_step_gap) continue;
        const VectorXd above = above_step(rows, step);
        const double known = above.dot(factor.solve(above)), shown = above.dot(alpha);
        const double variance = prior::step_sd * prior::step_sd;
        const double rise = shown / (1 / variance + known);
        const double evidence = 0.5 * shown * rise - 0.5 * std::log1p(variance * known);
        if (evidence < strongest || std::fabs(rise) < prior::min_step) continue;
        strongest = evidence;
        found = {series, step.from, step.to, rise};
      }
    }
    if (found.series < 0) return;
    steps_.push_back(found);
  }
}

void JointFit::spread_hyper() {
  const double apart = 0.15;  // log scale: small against what hyperparameters are uncertain by
  HyperMatrix curvature;
  for (int i = 0; i < hyper_count; ++i) {
    HyperVector above, below, by = HyperVector::Zero();
    by(i) = apart;
    log_posterior(hyper_ + by, &above);
    log_posterior(hyper_ - by, &below);
    curvature.col(i) = (below - above) / (2 * apart);
  }
  const Eigen::SelfAdjointEigenSolver<HyperMatrix> directions((curvature + curvature.transpose()) / 2);
  // Flat directions are as wide as their priors.
  hyper_spread_ =
      directions.eigenvectors() * directions.eigenvalues().cwiseMax(0.8).cwiseSqrt().cwiseInverse().asDiagonal();
}

}  // namespace mileage
