#include "analysis/model/joint_fit.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
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

HyperVector prior_medians(bool are_probed) {
  HyperVector medians;
  medians << prior::bend.median, prior::noise_of_runs(are_probed), prior::noise_of_slowdown.median, prior::drift.median,
      prior::drift_of_variant.median, prior::response_along_count.median;
  return medians.array().log();
}

HyperVector prior_sds() {
  HyperVector sds;
  sds << prior::bend.log_sd, prior::noise.log_sd, prior::noise_of_slowdown.log_sd, prior::drift.log_sd,
      prior::drift_of_variant.log_sd, prior::response_along_count.log_sd;
  return sds;
}

/// Spread evenly over series, places and blocks.
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

/// Groups with at most as many cells as a fit takes, or of one series.
std::vector<std::vector<Index>> groups_of_series(const Inputs& inputs) {
  std::map<int, std::vector<Index>> rows;
  std::map<int, std::set<double>> places;
  for (Index i = 0; i < inputs.size(); ++i) {
    rows[inputs.series(i)].push_back(i);
    places[inputs.series(i)].insert(inputs.t(i));
  }
  std::vector<std::vector<Index>> groups;
  std::size_t cells = 0;
  for (const auto& [series, of_series] : rows) {
    cells += places[series].size();
    if (groups.empty() || cells > prior::max_rows) {
      groups.emplace_back();
      cells = places[series].size();
    }
    groups.back().insert(groups.back().end(), of_series.begin(), of_series.end());
  }
  for (std::vector<Index>& group : groups) std::sort(group.begin(), group.end());
  return groups;
}

/// Ascending.
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
  *this = JointFit(inputs_.condensed(prior::max_rows));
  fit_to(part);
}

JointFit::JointFit(const std::vector<ModelRow>& rows, const JointFit& part)
    : JointFit(inputs_of(rows, latent_slowdowns(rows)).condensed(prior::max_rows)) {
  fit_to(part);
}

std::vector<JointFit> JointFit::in_groups(const std::vector<ModelRow>& rows) {
  const Inputs inputs = inputs_of(rows, latent_slowdowns(rows));
  const auto all = static_cast<std::size_t>(inputs.size());
  JointFit part(inputs.of(spread_rows(inputs, std::min<std::size_t>(all, prior::max_fitted_rows))));
  part.fit_hyper();
  if (all <= prior::max_fitted_rows) return {part};
  std::vector<JointFit> fits;
  for (const std::vector<Index>& group : groups_of_series(inputs)) {
    fits.push_back(JointFit(inputs.of(group).condensed(prior::max_rows)));
    fits.back().fit_to(part);
  }
  return fits;
}

JointFit::JointFit(Inputs inputs)
    : inputs_(std::move(inputs)),
      terms_(terms_of(inputs_, inputs_)),
      residuals_(inputs_.log_ms.matrix() - expected_log_ms(inputs_)),
      weights_(VectorXd::Ones(inputs_.size())),
      slope_(VectorXd::Constant(inputs_.size(), prior::response_mean)),
      full_speed_slope_(slope_),
      hyper_(prior_medians(inputs_.are_probed)),
      hyper_spread_(HyperMatrix::Identity()) {}

void JointFit::fit_hyper() {
  reweigh();
  climb(6);  // enough for weights
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
  while (steps_.size() < part.steps_.size()) {
    const ModelStep found = strongest_step(hyper_);
    if (found.series < 0) break;
    steps_.push_back(found);
  }
  reweigh();
}

VectorXd JointFit::noise(const HyperVector& hyper) const {
  const double constant = std::exp(2 * hyper(noise_sd)), of_slowdown = std::exp(2 * hyper(noise_slowdown_sd));
  return (constant + of_slowdown * inputs_.slowdown.square() + slope_.array().square() * inputs_.slowdown_variance) /
         inputs_.runs;
}

VectorXd JointFit::full_speed_error() const {
  return inputs_.full_speed_sd * full_speed_slope_.cwiseProduct(inputs_.running.matrix());
}

MatrixXd JointFit::shared_with(const JointFit& other, const Terms& terms, const HyperVector& hyper) const {
  const HyperVector variance = (2 * hyper).array().exp();
  MatrixXd sum = terms.fixed + variance(bend_sd) * terms.bend + variance(response_count_sd) * terms.response_count +
                 variance(drift_sd) * terms.drift + variance(drift_variant_sd) * terms.drift_variant;
  const VectorXd error = full_speed_error(), of_others = other.full_speed_error();
  for (Index j = 0; j < sum.cols(); ++j)
    for (Index i = 0; i < sum.rows(); ++i)
      if (inputs_.kind(i) == other.inputs_.kind(j)) sum(i, j) += error(i) * of_others(j);
  for (const ModelStep& step : steps_)
    sum.noalias() += prior::step_sd * prior::step_sd * above_step({inputs_.series, inputs_.t}, step) *
                     above_step({other.inputs_.series, other.inputs_.t}, step).transpose();
  return sum;
}

MatrixXd JointFit::covariance(const HyperVector& hyper) const {
  MatrixXd sum = shared_with(*this, terms_, hyper);
  sum.diagonal().array() += noise(hyper).array() / weights_.array();
  return sum;
}

JointFit::FurtherRuns JointFit::further_runs(const CurvePlaces& places) const {
  Inputs inputs = inputs_.of(std::vector<Index>(static_cast<std::size_t>(places.t.size()), 0));
  inputs.series = places.series;
  inputs.t = places.t;
  inputs.block.setConstant(inputs_.block.maxCoeff() + 1);
  inputs.order.setConstant(inputs_.order.maxCoeff() + 1);
  inputs.process.setConstant(-1);
  for (const auto array : {&Inputs::waiting, &Inputs::running, &Inputs::slowdown, &Inputs::slowdown_variance})
    (inputs.*array).setConstant((inputs_.*array).mean());
  inputs.shared_sd.setZero();
  inputs.runs.setOnes();
  JointFit further(std::move(inputs));
  further.steps_ = steps_;
  return {shared_with(further, terms_of(inputs_, further.inputs_), hyper_),
          further.shared_with(further, further.terms_, hyper_), further.noise(hyper_)};
}

MatrixXd JointFit::posterior_covariance(const HyperVector& hyper) const {
  MatrixXd sum = covariance(hyper);
  const double lost = (prior::noise_df + 3) / (prior::noise_df + 1);
  sum.diagonal().array() += (lost - 1) * noise(hyper).array() / weights_.array();
  return sum;
}

double JointFit::log_posterior(const HyperVector& hyper, HyperVector* gradient) const {
  const Eigen::LLT<MatrixXd> factor(covariance(hyper));
  if (factor.info() != Eigen::Success) return -std::numeric_limits<double>::infinity();
  const VectorXd whitened = factor.matrixL().solve(residuals_);
  const HyperVector distances = (hyper - prior_medians(inputs_.are_probed)).cwiseQuotient(prior_sds());
  const double value =
      -0.5 * whitened.squaredNorm() - factor.matrixLLT().diagonal().array().log().sum() - 0.5 * distances.squaredNorm();
  if (gradient == nullptr) return value;
  const VectorXd alpha = factor.matrixU().solve(whitened);
  // d/dh of -r'Kr/2 - log|K|/2 is tr((aa' - K^-1) dK/dh)/2; dK/dh is twice a term times its variance.
  MatrixXd inner = factor.solve(MatrixXd::Identity(alpha.size(), alpha.size()));
  inner = alpha * alpha.transpose() - inner;
  const Eigen::ArrayXd diagonal = inner.diagonal().array() / weights_.array() / inputs_.runs;
  const HyperVector variance = (2 * hyper).array().exp();
  const auto by = [&](const MatrixXd& term) { return inner.cwiseProduct(term).sum(); };
  *gradient << by(terms_.bend), diagonal.sum(), (diagonal * inputs_.slowdown.square()).sum(), by(terms_.drift),
      by(terms_.drift_variant), by(terms_.response_count);
  gradient->array() *= variance.array();
  *gradient -= distances.cwiseQuotient(prior_sds());
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
  } catch (const std::exception&) {  // LBFGS++ throws several kinds.
    // A line search may end between equal values; the best one counts.
  }
  hyper_ = best;
}

void JointFit::reweigh() {
  const Eigen::LLT<MatrixXd> factor(covariance(hyper_));
  const VectorXd alpha = factor.solve(residuals_);
  const VectorXd variance = noise(hyper_);
  const Eigen::ArrayXd left = variance.array() / weights_.array() * alpha.array();
  weights_ = (prior::noise_df + 1) / (prior::noise_df + left.square() / variance.array());

  // Response of each row's series there, as the other rows show it.
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
  // Differences over slowdowns too close to distinguish; limited to 0.05 to 1.5.
  for (Index i = 0; i < size; ++i) {
    const double above = inputs_.slowdown(i) + 0.15, below = std::max(inputs_.slowdown(i) - 0.15, -0.1);
    slope_(i) = std::clamp((response(i, above) - response(i, below)) / (above - below), 0.05, 1.5);
    full_speed_slope_(i) = std::clamp(response(i, 0.1) / 0.1, 0.05, 1.5);
  }
}

/// Whether a change of slope within the gap explains the rise: the line (not log-log) through the two places beyond
/// passes the place before on the other side.
bool JointFit::is_knee(const CurvePlaces& around, double rise, const VectorXd& alpha, const HyperVector& hyper) const {
  const CurvePlaces rows{inputs_.series, inputs_.t};
  const VectorXd log_ms = curve_covariance(around, rows, std::exp(hyper(bend_sd))) * alpha + expected_curve(around);
  const Eigen::Array3d ms = (log_ms.array() + Eigen::Array3d(0, rise, rise)).exp(), x = around.t.exp();
  const double line = ms(1) - (ms(2) - ms(1)) * (x(1) - x(0)) / (x(2) - x(1));
  return rise > 0 ? line < ms(0) : line > ms(0);
}

ModelStep JointFit::strongest_step(const HyperVector& hyper) const {
  const std::set<int> all(inputs_.series.begin(), inputs_.series.end());
  const CurvePlaces rows{inputs_.series, inputs_.t};
  const Eigen::LLT<MatrixXd> factor(covariance(hyper));
  const VectorXd alpha = factor.solve(residuals_);
  double strongest = prior::step_evidence;
  ModelStep found{-1};
  for (const int series : all) {
    const std::vector<double> places = places_of(inputs_, series);
    for (std::size_t i = 1; i + 2 < places.size(); ++i) {
      const ModelStep step{series, places[i], places[i + 1]};
      if (step.to - step.from > prior::max_step_gap) continue;
      const VectorXd above = above_step(rows, step), solved = factor.solve(above);
      const double known = above.dot(solved), shown = above.dot(alpha);
      const double variance = prior::step_sd * prior::step_sd;
      const double rise = shown / (1 / variance + known);
      const double evidence = 0.5 * shown * rise - 0.5 * std::log1p(variance * known);
      if (evidence < strongest) continue;
      const CurvePlaces around{Eigen::ArrayXi::Constant(3, series), Eigen::Map<const Eigen::Array3d>(&places[i])};
      if (is_knee(around, rise, alpha - rise * solved, hyper)) continue;
      strongest = evidence;
      found = {series, step.from, step.to, rise};
    }
  }
  return found;
}

void JointFit::find_steps() {
  while (true) {
    // Without a known step, bending and noise absorb it: searched with prior values.
    const HyperVector smooth = hyper_;
    for (const Hyper of_shape : {bend_sd, noise_sd})
      hyper_(of_shape) = std::min(smooth(of_shape), prior_medians(inputs_.are_probed)(of_shape));
    const ModelStep step = strongest_step(hyper_);
    const double without = log_posterior(smooth);
    if (step.series >= 0) {
      steps_.push_back(step);
      climb(25);
      if (log_posterior(hyper_) - without >= prior::step_evidence) continue;
      steps_.pop_back();
    }
    hyper_ = smooth;
    return;
  }
}

void JointFit::spread_hyper() {
  const double apart = 0.15;  // log scale: small against hyperparameter uncertainty
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
