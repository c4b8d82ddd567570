#include "analysis/model/draws.h"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <random>

#include <Eigen/Cholesky>

#include "analysis/model/priors.h"

namespace mileage {
namespace {

using Eigen::Index;
using Eigen::MatrixXd;
using Eigen::VectorXd;

struct Proposal {
  HyperVector hyper;
  int draws = 0;
};

/// Proposals with how many draws each is worth: in proportion to posterior over proposal density.
std::vector<Proposal> propose(const JointFit& fit, int count, std::mt19937_64& random) {
  std::normal_distribution<double> normal;
  std::chi_squared_distribution<double> chi_squared(prior::proposal_df);
  std::vector<Proposal> all;
  std::vector<double> log_weights;
  for (int i = 0; i < prior::proposals; ++i) {
    HyperVector t;
    for (double& one : t) one = normal(random);
    t /= std::sqrt(chi_squared(random) / prior::proposal_df);
    all.push_back({fit.hyper() + fit.hyper_spread() * t, 0});
    const double log_density =
        -0.5 * (prior::proposal_df + static_cast<int>(hyper_count)) * std::log1p(t.squaredNorm() / prior::proposal_df);
    log_weights.push_back(fit.log_posterior(all.back().hyper) - log_density);
  }
  const double largest = *std::max_element(log_weights.begin(), log_weights.end());
  for (double& weight : log_weights) weight = std::exp(std::max(weight - largest, -50.0));
  std::discrete_distribution<int> pick(log_weights.begin(), log_weights.end());
  for (int i = 0; i < count; ++i) ++all[static_cast<std::size_t>(pick(random))].draws;
  return all;
}

/// Every series at every place, series by series.
Places places_for(const JointFit& fit, int series, const std::vector<double>& log_x) {
  const auto size = static_cast<Index>(log_x.size());
  Places places{Eigen::ArrayXi(series * size), Eigen::ArrayXd(series * size)};
  for (int one = 0; one < series; ++one)
    for (Index i = 0; i < size; ++i) {
      places.series(one * size + i) = one;
      places.t(one * size + i) = log_x[static_cast<std::size_t>(i)] - fit.inputs().middle;
    }
  return places;
}

/// A root of a covariance that rounding may have left without a Cholesky factor.
MatrixXd root_of(MatrixXd covariance) {
  covariance.diagonal().array() += 1e-8;
  const Eigen::LLT<MatrixXd> factor(covariance);
  if (factor.info() == Eigen::Success) return factor.matrixL();
  const Eigen::LDLT<MatrixXd> rounded(covariance);
  const MatrixXd lower = rounded.matrixL();
  return rounded.transpositionsP().transpose() *
         MatrixXd(lower * rounded.vectorD().cwiseMax(0).cwiseSqrt().asDiagonal());
}

/// Curves given one vector of hyperparameters: a row for each draw.
MatrixXd draws_given(const JointFit& fit, const Places& places, const Proposal& proposal, std::mt19937_64& random) {
  const Places rows{fit.inputs().series, fit.inputs().t};
  const double bend = std::exp(proposal.hyper(bend_sd));
  MatrixXd across = curve_covariance(rows, places, bend), among = curve_covariance(places, places, bend);
  for (const ModelStep& step : fit.steps()) {
    const VectorXd of_places = prior::step_sd * above_step(places, step);
    across += prior::step_sd * above_step(rows, step) * of_places.transpose();
    among += of_places * of_places.transpose();
  }
  const Eigen::LLT<MatrixXd> factor(fit.covariance(proposal.hyper));
  const MatrixXd whitened = factor.matrixL().solve(across);
  const VectorXd mean = expected_curve(places) + whitened.transpose() * factor.matrixL().solve(fit.residuals());
  among.noalias() -= whitened.transpose() * whitened;
  const MatrixXd root = root_of(std::move(among));
  std::normal_distribution<double> normal;
  MatrixXd standard(proposal.draws, mean.size());
  for (Index i = 0; i < standard.rows(); ++i)
    for (Index j = 0; j < standard.cols(); ++j) standard(i, j) = normal(random);
  return (standard * root.transpose()).rowwise() + mean.transpose();
}

/// Nothing shows where in its gap a step is: anywhere, with equal probability in log places.
void move_steps(const JointFit& fit, const Places& places, MatrixXd& draws, std::mt19937_64& random) {
  for (const ModelStep& step : fit.steps()) {
    std::uniform_real_distribution<double> anywhere(step.from, step.to);
    const double middle = (step.from + step.to) / 2;
    for (Index draw = 0; draw < draws.rows(); ++draw) {
      const double at = anywhere(random);
      for (Index i = 0; i < places.t.size(); ++i) {
        const double t = places.t(i);
        if (places.series(i) == step.series && t > step.from && t < step.to)
          draws(draw, i) += step.rise * ((t > at) - (t > middle));
      }
    }
  }
}

}  // namespace

Draws draw_curves(const JointFit& fit, int series, const std::vector<double>& log_x, int count, std::uint64_t seed) {
  std::mt19937_64 random(seed);
  const Places places = places_for(fit, series, log_x);
  MatrixXd all(count, places.t.size());
  Index filled = 0;
  for (const Proposal& proposal : propose(fit, count, random)) {
    if (proposal.draws == 0) continue;
    all.middleRows(filled, proposal.draws) = draws_given(fit, places, proposal, random);
    filled += proposal.draws;
  }
  move_steps(fit, places, all, random);
  Draws draws{log_x, {}};
  const auto size = static_cast<Index>(log_x.size());
  for (int one = 0; one < series; ++one) draws.log_ms.push_back(all.middleCols(one * size, size));
  return draws;
}

}  // namespace mileage
