#include "analysis/answers/scaling.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <random>

#include <Eigen/Core>

#include "analysis/curves/curve.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/least_squares.h"

namespace mileage {
namespace {

/// Times against workers as one of the curves of each number tells them.
struct WorkerTimes {
  std::vector<double> workers;
  std::vector<double> ms;
};

/// Coefficients that are not negative, of least squares: the best of all choices of terms whose solution has none
/// below zero.
Eigen::Vector3d non_negative(const Eigen::MatrixXd& terms, const Eigen::VectorXd& target) {
  Eigen::Vector3d best = Eigen::Vector3d::Zero();
  double least = target.squaredNorm();
  for (int choice = 1; choice < 8; ++choice) {
    std::vector<Eigen::Index> taken;
    for (int term = 0; term < 3; ++term)
      if ((choice >> term) & 1) taken.push_back(term);
    Eigen::MatrixXd chosen(terms.rows(), static_cast<Eigen::Index>(taken.size()));
    for (std::size_t i = 0; i < taken.size(); ++i) chosen.col(static_cast<Eigen::Index>(i)) = terms.col(taken[i]);
    const Eigen::VectorXd found = LeastSquares(chosen)(target);
    const double squares = (chosen * found - target).squaredNorm();
    if (found.minCoeff() < 0 || squares >= least) continue;
    least = squares;
    best.setZero();
    for (std::size_t i = 0; i < taken.size(); ++i) best(taken[i]) = found(static_cast<Eigen::Index>(i));
  }
  return best;
}

/// Coefficients of T(w) = serial + parallel / w + contention (w - 1), each relative to T(1), none negative.
Eigen::Vector3d fit_scaling(const WorkerTimes& times) {
  const auto rows = static_cast<Eigen::Index>(times.workers.size());
  Eigen::MatrixXd terms(rows, 3);
  Eigen::VectorXd ones = Eigen::VectorXd::Ones(rows);
  // Each row divided by its time: relative residuals, which are what log residuals come to.
  for (Eigen::Index i = 0; i < rows; ++i) {
    const double w = times.workers[static_cast<std::size_t>(i)];
    const double ms = times.ms[static_cast<std::size_t>(i)];
    terms.row(i) << 1 / ms, 1 / w / ms, (w - 1) / ms;
  }
  const Eigen::Vector3d found = non_negative(terms, ones);
  const double of_one = found(0) + found(1);
  return of_one > 0 ? Eigen::Vector3d(found / of_one) : Eigen::Vector3d(1, 0, 0);
}

double scaled_time(const Eigen::Vector3d& of, double workers) {
  return of(0) + of(1) / workers + of(2) * (workers - 1);
}

/// 95 % half-width of a value's log time that leaving out blocks does not show.
double doubt_beside_blocks(const SeriesCurve& curve, double x) {
  return std::hypot(std::hypot(normal_95 * curve.slope_error(), curve.load_doubt), curve.doubt_at(x),
                    t_factor(assumed_blocks) * curve.between_runs);
}

/// Times of all values, with the curves of all blocks or without one.
WorkerTimes times_at(const std::vector<WorkersCurve>& curves, double x, std::optional<std::size_t> without) {
  WorkerTimes times;
  for (const WorkersCurve& one : curves) {
    const Curve& of = without ? one.curve->without[*without] : one.curve->all;
    times.workers.push_back(one.workers);
    times.ms.push_back(std::exp(of.log_ms_at(x)));
  }
  return times;
}

/// How far log times lie from their mean without each block: a column for each block that counts. What blocks do to all
/// values stays together.
Eigen::MatrixXd moved_by_blocks(const std::vector<WorkersCurve>& curves, double x) {
  const SeriesCurve& first = *curves.front().curve;
  const auto values = static_cast<Eigen::Index>(curves.size());
  Eigen::MatrixXd moved(values, 0);
  for (std::size_t block = 0; block < first.without.size(); ++block) {
    if (!first.block_counts[block]) continue;
    const WorkerTimes times = times_at(curves, x, block);
    moved.conservativeResize(Eigen::NoChange, moved.cols() + 1);
    moved.rightCols(1) = Eigen::Map<const Eigen::VectorXd>(times.ms.data(), values).array().log();
  }
  return moved.colwise() - moved.rowwise().mean().eval();
}

/// Degrees of freedom of a serial share of which each value's error rests on its own blocks.
double degrees_of_serial(const WorkerTimes& times, const Eigen::MatrixXd& moved_by_blocks) {
  const auto of_one = static_cast<double>(moved_by_blocks.cols() - 1);
  std::vector<StandardError> errors;
  for (std::size_t i = 0; i < times.ms.size(); ++i) {
    const double error = moved_by_blocks.row(static_cast<Eigen::Index>(i)).norm();
    WorkerTimes up = times, down = times;
    up.ms[i] *= std::exp(error);
    down.ms[i] /= std::exp(error);
    errors.push_back({(fit_scaling(up)(0) - fit_scaling(down)(0)) / 2, of_one});
  }
  return sum_of(errors).degrees_of_freedom;
}

/// 95 % of the serial shares that come out when log times move by all that is in doubt of them: by what leaving out
/// blocks shows, by how unlike values may respond to a busy machine, each by itself, and by the fast level, which is
/// the same for all. Drawn, since the share has ends at 0 and 1 that errors do not know: where so many come out as 0
/// that the interval begins there, nothing is missed on that side, and all of the 5 % lie above.
Interval serial_interval(const std::vector<WorkersCurve>& curves, double x, const WorkerTimes& times,
                         const Eigen::MatrixXd& moved_by_blocks) {
  const auto blocks = static_cast<double>(moved_by_blocks.cols());
  const double of_blocks =
      std::sqrt((blocks - 1) / blocks) * t_quantile(0.975, degrees_of_serial(times, moved_by_blocks)) / normal_95;
  std::vector<double> own_deviations;
  for (const WorkersCurve& one : curves) own_deviations.push_back(doubt_beside_blocks(*one.curve, x) / normal_95);
  std::mt19937_64 random(serial_draws);
  std::normal_distribution<double> normal;
  std::vector<double> shares;
  for (int draw = 0; draw < serial_draws; ++draw) {
    const Eigen::VectorXd moved =
        of_blocks *
        (moved_by_blocks * Eigen::VectorXd::NullaryExpr(moved_by_blocks.cols(), [&] { return normal(random); }));
    const double level = normal(random);
    WorkerTimes drawn = times;
    for (std::size_t i = 0; i < curves.size(); ++i) {
      const SeriesCurve& curve = *curves[i].curve;
      drawn.ms[i] *= std::exp(moved(static_cast<Eigen::Index>(i)) + own_deviations[i] * normal(random) +
                              level * curve.adjustment.slope * curve.fast_level_deviation);
    }
    shares.push_back(fit_scaling(drawn)(0));
  }
  std::sort(shares.begin(), shares.end());
  const std::size_t beyond = shares.size() / 40;
  const bool begins_at_0 = shares[beyond] <= 0;
  return {shares[beyond], std::min(1.0, shares[shares.size() - 1 - (begins_at_0 ? 2 : 1) * beyond])};
}

}  // namespace

Scaling scaling_of(const std::vector<WorkersCurve>& curves, double x) {
  Scaling scaling;
  scaling.x = x;
  scaling.values = curves.size();
  const WorkerTimes times = times_at(curves, x, {});
  const Eigen::Vector3d found = fit_scaling(times);
  scaling.serial = found(0);
  scaling.contention = found(2);
  const Eigen::MatrixXd by_blocks = moved_by_blocks(curves, x);
  if (curves.size() >= values_for_scaling && by_blocks.cols() >= 3)
    scaling.serial_interval = serial_interval(curves, x, times, by_blocks);
  while (scaling.useful_workers < most_useful_workers &&
         scaled_time(found, scaling.useful_workers + 1) <
             (1 - least_saved_by_a_worker) * scaled_time(found, scaling.useful_workers))
    ++scaling.useful_workers;
  return scaling;
}

}  // namespace mileage
