#include "analysis/model/draws.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <random>
#include <set>

#include <Eigen/Cholesky>
#include <boost/random/chi_squared_distribution.hpp>
#include <boost/random/discrete_distribution.hpp>
#include <boost/random/normal_distribution.hpp>
#include <boost/random/uniform_real_distribution.hpp>

#include "analysis/model/priors.h"

namespace mileage {
namespace {

using Eigen::ArrayXd;
using Eigen::Index;
using Eigen::MatrixXd;
using Eigen::VectorXd;

struct Proposal {
  HyperVector hyper;
  int draws = 0;
};

/// More of them where rows are few: hyperparameters are less certain then, and a proposal takes less time.
int proposals_for(Index rows) {
  return std::clamp(prior::proposals * 2 * prior::max_fitted_rows / static_cast<int>(rows), prior::proposals,
                    10 * prior::proposals);
}

/// Proposals with their numbers of draws, proportional to posterior / proposal density.
std::vector<Proposal> propose(const JointFit& fit, int count, std::mt19937_64& random) {
  boost::random::normal_distribution<double> normal;
  boost::random::chi_squared_distribution<double> chi_squared(prior::noise_df);
  std::vector<Proposal> all;
  std::vector<double> log_weights;
  for (int i = proposals_for(fit.inputs().size()); i > 0; --i) {
    HyperVector t;
    for (double& one : t) one = normal(random);
    t /= std::sqrt(chi_squared(random) / prior::noise_df);
    all.push_back({fit.hyper() + fit.hyper_spread() * t, 0});
    const double log_density =
        -0.5 * (prior::noise_df + static_cast<int>(hyper_count)) * std::log1p(t.squaredNorm() / prior::noise_df);
    log_weights.push_back(fit.log_posterior(all.back().hyper) - log_density);
  }
  const double largest = *std::max_element(log_weights.begin(), log_weights.end());
  for (double& weight : log_weights) weight = std::exp(std::max(weight - largest, -50.0));
  boost::random::discrete_distribution<int> pick(log_weights.begin(), log_weights.end());
  for (int i = 0; i < count; ++i) ++all[static_cast<std::size_t>(pick(random))].draws;
  return all;
}

/// Works for covariances that rounding left without a Cholesky factor.
MatrixXd root_of(MatrixXd covariance) {
  covariance.diagonal().array() += 1e-8;
  const Eigen::LLT<MatrixXd> factor(covariance);
  if (factor.info() == Eigen::Success) return factor.matrixL();
  const Eigen::LDLT<MatrixXd> rounded(covariance);
  const MatrixXd lower = rounded.matrixL();
  return rounded.transpositionsP().transpose() *
         MatrixXd(lower * rounded.vectorD().cwiseMax(0).cwiseSqrt().asDiagonal());
}

MatrixXd standard_normal(Index rows, Index columns, std::mt19937_64& random) {
  boost::random::normal_distribution<double> normal;
  return MatrixXd::NullaryExpr(rows, columns, [&] { return normal(random); });
}

/// Rows of a series and places of its draws, as distances from the middle.
struct SeriesRows {
  std::size_t series = 0;
  std::vector<Index> rows;
  std::vector<Index> row_places;   ///< Indices of places.
  std::vector<Index> draw_places;  ///< Indices of places.
  CurvePlaces places;
};

SeriesRows rows_of(const Inputs& inputs, int series, const std::vector<double>& log_x) {
  std::map<double, Index> known;
  for (Index i = 0; i < inputs.size(); ++i)
    if (inputs.series(i) == series) known.emplace(inputs.t(i), 0);
  for (const double x : log_x) known.emplace(x - inputs.middle, 0);
  SeriesRows of;
  of.series = static_cast<std::size_t>(series);
  of.places = {Eigen::ArrayXi::Constant(static_cast<Index>(known.size()), series),
               ArrayXd(static_cast<Index>(known.size()))};
  Index number = 0;
  for (auto& [t, place] : known) {
    place = number++;
    of.places.t(place) = t;
  }
  for (Index i = 0; i < inputs.size(); ++i)
    if (inputs.series(i) == series) {
      of.rows.push_back(i);
      of.row_places.push_back(known.at(inputs.t(i)));
    }
  for (const double x : log_x) of.draw_places.push_back(known.at(x - inputs.middle));
  return of;
}

/// Among a series' places, steps included.
MatrixXd curve_of(const JointFit& fit, const SeriesRows& of, double bend) {
  MatrixXd among = curve_covariance(of.places, of.places, bend);
  for (const ModelStep& step : fit.steps()) {
    const VectorXd above = prior::step_sd * above_step(of.places, step);
    among += above * above.transpose();
  }
  return among;
}

/// For one vector of hyperparameters: by series, draws by places.
std::vector<MatrixXd> draws_given(const JointFit& fit, const std::vector<SeriesRows>& all, const Proposal& proposal,
                                  std::mt19937_64& random) {
  const double bend = std::exp(proposal.hyper(bend_sd));
  MatrixXd covariance = fit.posterior_covariance(proposal.hyper);
  const Eigen::LLT<MatrixXd> factor(covariance);
  std::vector<MatrixXd> among, curves;
  MatrixXd& rest = covariance;  // Without the curves.
  MatrixXd apart = fit.residuals().replicate(1, proposal.draws);
  for (const SeriesRows& of : all) {
    among.push_back(curve_of(fit, of, bend));
    rest(of.rows, of.rows) -= among.back()(of.row_places, of.row_places);
    curves.push_back(root_of(among.back()) * standard_normal(of.places.t.size(), proposal.draws, random));
    apart(of.rows, Eigen::all) -= curves.back()(of.row_places, Eigen::all);
  }
  apart -= root_of(std::move(rest)) * standard_normal(apart.rows(), apart.cols(), random);
  const MatrixXd alpha = factor.solve(apart);
  for (std::size_t i = 0; i < all.size(); ++i) {
    const SeriesRows& of = all[i];
    const MatrixXd across = among[i](of.draw_places, of.row_places);
    curves[i] = ((curves[i](of.draw_places, Eigen::all) + across * alpha(of.rows, Eigen::all)).colwise() +
                 expected_curve(of.places)(of.draw_places))
                    .transpose()
                    .eval();
  }
  return curves;
}

/// A step may be anywhere in its gap: uniform in log place.
void move_steps(const JointFit& fit, const std::vector<SeriesRows>& all, Draws& draws, std::mt19937_64& random) {
  for (const ModelStep& step : fit.steps()) {
    boost::random::uniform_real_distribution<double> anywhere(step.from, step.to);
    const double middle = (step.from + step.to) / 2;
    const SeriesRows& of = *std::find_if(all.begin(), all.end(), [&](const SeriesRows& one) {
      return one.series == static_cast<std::size_t>(step.series);
    });
    MatrixXd& of_series = draws[of.series];
    for (Index draw = 0; draw < of_series.rows(); ++draw) {
      const double at = anywhere(random);
      for (std::size_t i = 0; i < of.draw_places.size(); ++i) {
        const double t = of.places.t(of.draw_places[i]);
        if (t > step.from && t < step.to)
          of_series(draw, static_cast<Index>(i)) += step.rise * ((t > at) - (t > middle));
      }
    }
  }
}

}  // namespace

Draws draw_curves(const JointFit& fit, const std::vector<std::vector<double>>& log_x, int count, std::uint64_t seed) {
  std::mt19937_64 random(seed);
  std::vector<SeriesRows> all;
  Draws draws(log_x.size());
  for (const int series : std::set<int>(fit.inputs().series.begin(), fit.inputs().series.end())) {
    all.push_back(rows_of(fit.inputs(), series, log_x[static_cast<std::size_t>(series)]));
    draws[all.back().series].resize(count, static_cast<Index>(all.back().draw_places.size()));
  }
  Index filled = 0;
  for (const Proposal& proposal : propose(fit, count, random)) {
    if (proposal.draws == 0) continue;
    const std::vector<MatrixXd> some = draws_given(fit, all, proposal, random);
    for (std::size_t i = 0; i < all.size(); ++i) draws[all[i].series].middleRows(filled, proposal.draws) = some[i];
    filled += proposal.draws;
  }
  move_steps(fit, all, draws, random);
  return draws;
}

}  // namespace mileage
