#include "analysis/curves/rough_curves.h"

#include <cmath>

#include <Eigen/Cholesky>
#include <Eigen/Core>

#include "analysis/evidence/judged_run.h"
#include "analysis/model/joint_fit.h"
#include "analysis/model/priors.h"

namespace mileage {
namespace {

using Eigen::ArrayXd;
using Eigen::Index;
using Eigen::MatrixXd;
using Eigen::VectorXd;

CurvePlaces places_of(const std::vector<FurtherRun>& runs, double middle) {
  CurvePlaces places{Eigen::ArrayXi(static_cast<Index>(runs.size())), ArrayXd(static_cast<Index>(runs.size()))};
  for (std::size_t i = 0; i < runs.size(); ++i) {
    places.series(static_cast<Index>(i)) = runs[i].series;
    places.t(static_cast<Index>(i)) = runs[i].log_x - middle;
  }
  return places;
}

/// Both series of each contrast.
std::vector<FurtherRun> ends_of(const std::vector<Contrast>& contrasts) {
  std::vector<FurtherRun> ends;
  for (const Contrast& contrast : contrasts)
    for (const int series : {contrast.one, contrast.other}) ends.push_back({series, contrast.log_x});
  return ends;
}

/// Contrasts by their ends.
MatrixXd weights_of(const std::vector<Contrast>& contrasts) {
  const auto size = static_cast<Index>(contrasts.size());
  MatrixXd weights = MatrixXd::Zero(size, 2 * size);
  for (Index i = 0; i < size; ++i) {
    weights(i, 2 * i) = contrasts[static_cast<std::size_t>(i)].weight;
    weights(i, 2 * i + 1) = contrasts[static_cast<std::size_t>(i)].weight_of_other;
  }
  return weights;
}

}  // namespace

double fast_frame_ms(const DisturbanceFilter& judge, const Run& run) {
  return typical_frame_ms(run) * std::exp(-expected_response(std::log(judge.slowness(run).value_or(1))));
}

struct RoughCurves::Posterior {
  explicit Posterior(JointFit of)
      : fit(std::move(of)), factor(fit.posterior_covariance(fit.hyper())), alpha(factor.solve(fit.residuals())) {}

  MatrixXd curves(const CurvePlaces& one, const CurvePlaces& other) const {
    MatrixXd sum = curve_covariance(one, other, std::exp(fit.hyper()(bend_sd)));
    for (const ModelStep& step : fit.steps())
      sum.noalias() += prior::step_sd * prior::step_sd * above_step(one, step) * above_step(other, step).transpose();
    return sum;
  }
  MatrixXd with_rows(const CurvePlaces& places) const { return curves(places, {fit.inputs().series, fit.inputs().t}); }

  JointFit fit;
  Eigen::LLT<MatrixXd> factor;
  VectorXd alpha;
};

RoughCurves::RoughCurves(const std::vector<ModelRow>& rows, const RoughCurves* part)
    : fitted_rows_(part == nullptr ? rows.size() : part->fitted_rows_),
      posterior_(
          std::make_unique<Posterior>(part == nullptr ? JointFit(rows) : JointFit(rows, part->posterior_->fit))) {
  for (const ModelRow& row : rows) series_.insert(row.series);
}

RoughCurves::~RoughCurves() = default;

std::vector<double> RoughCurves::log_ms(int series, const std::vector<double>& log_x) const {
  const auto size = static_cast<Index>(log_x.size());
  const CurvePlaces places{Eigen::ArrayXi::Constant(size, series),
                           Eigen::Map<const ArrayXd>(log_x.data(), size) - posterior_->fit.inputs().middle};
  const VectorXd costs = posterior_->with_rows(places) * posterior_->alpha + expected_curve(places);
  return {costs.begin(), costs.end()};
}

std::optional<std::pair<double, double>> RoughCurves::step_around(int series, double log_x) const {
  const double middle = posterior_->fit.inputs().middle;
  for (const ModelStep& step : posterior_->fit.steps())
    if (step.series == series && log_x > middle + step.from && log_x < middle + step.to)
      return std::pair(middle + step.from, middle + step.to);
  return std::nullopt;
}

struct Narrowing::Gaussian {
  Index contrasts;
  VectorXd noise;  ///< Of runs.
  MatrixXd among;  ///< Of contrasts, then runs, without that noise.

  Index of_run(std::size_t run) const { return contrasts + static_cast<Index>(run); }
  double variance_of_run(std::size_t run) const {
    return among(of_run(run), of_run(run)) + noise(static_cast<Index>(run));
  }
};

Narrowing::Narrowing(const RoughCurves& curves, const std::vector<Contrast>& contrasts,
                     const std::vector<FurtherRun>& runs) {
  const RoughCurves::Posterior& posterior = *curves.posterior_;
  const double middle = posterior.fit.inputs().middle;
  const CurvePlaces ends = places_of(ends_of(contrasts), middle), places = places_of(runs, middle);
  const MatrixXd weights = weights_of(contrasts);
  const JointFit::FurtherRuns further = posterior.fit.further_runs(places);
  const Index all = weights.rows() + places.t.size();
  MatrixXd with_rows(further.with_rows.rows(), all), among(all, all);
  with_rows << (weights * posterior.with_rows(ends)).transpose(), further.with_rows;
  const MatrixXd across = weights * posterior.curves(ends, places);
  among << weights * posterior.curves(ends, ends) * weights.transpose(), across, across.transpose(), further.among;
  among.noalias() -= with_rows.transpose() * posterior.factor.solve(with_rows);
  gaussian_ = std::make_unique<Gaussian>(Gaussian{weights.rows(), further.noise, std::move(among)});
}

Narrowing::~Narrowing() = default;

double Narrowing::variance(std::size_t contrast) const {
  return gaussian_->among(static_cast<Index>(contrast), static_cast<Index>(contrast));
}

double Narrowing::gain(std::size_t contrast, std::size_t run) const {
  const double shared = gaussian_->among(static_cast<Index>(contrast), gaussian_->of_run(run));
  return shared * shared / gaussian_->variance_of_run(run);
}

void Narrowing::take(std::size_t run) {
  const VectorXd with_run = gaussian_->among.col(gaussian_->of_run(run));
  gaussian_->among.noalias() -= with_run * with_run.transpose() / gaussian_->variance_of_run(run);
}

}  // namespace mileage
