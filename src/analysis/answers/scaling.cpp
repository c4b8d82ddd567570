#include "analysis/answers/scaling.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <random>
#include <vector>

#include <Eigen/Core>

#include "analysis/curves/curve.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/least_squares.h"
#include "analysis/statistics/statistics.h"

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
  double min = target.squaredNorm();
  for (int choice = 1; choice < 8; ++choice) {
    std::vector<Eigen::Index> taken;
    for (int term = 0; term < 3; ++term)
      if ((choice >> term) & 1) taken.push_back(term);
    Eigen::MatrixXd chosen(terms.rows(), static_cast<Eigen::Index>(taken.size()));
    for (std::size_t i = 0; i < taken.size(); ++i) chosen.col(static_cast<Eigen::Index>(i)) = terms.col(taken[i]);
    const Eigen::VectorXd found = LeastSquares(chosen)(target);
    const double squares = (chosen * found - target).squaredNorm();
    if (found.minCoeff() < 0 || squares >= min) continue;
    min = squares;
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

/// Times of all values, with the curves of all blocks or without one.
WorkerTimes times_at(const std::vector<WorkersCurve>& curves, double x, std::optional<std::size_t> leave_one_out) {
  WorkerTimes times;
  for (const WorkersCurve& one : curves) {
    const Curve& of = leave_one_out ? one.curve->leave_one_out[*leave_one_out] : one.curve->all;
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
  for (std::size_t block = 0; block < first.leave_one_out.size(); ++block) {
    if (!first.block_counts[block]) continue;
    const WorkerTimes times = times_at(curves, x, block);
    moved.conservativeResize(Eigen::NoChange, moved.cols() + 1);
    moved.rightCols(1) = Eigen::Map<const Eigen::VectorXd>(times.ms.data(), values).array().log();
  }
  return moved.colwise() - moved.rowwise().mean().eval();
}

/// What is uncertain of log times, as standard deviations: what leaving blocks out shows, a column for each, which
/// stays together over values; how unlike values may respond to a loaded machine, each by itself; and full speed, which
/// is the same for all.
struct TimesInDoubt {
  Eigen::MatrixXd by_blocks;
  Eigen::VectorXd own;
  Eigen::VectorXd by_slowdown;

  Eigen::VectorXd drawn(std::mt19937_64& random) const {
    std::normal_distribution<double> normal;
    const auto draw = [&] { return normal(random); };
    const Eigen::VectorXd of_blocks = Eigen::VectorXd::NullaryExpr(by_blocks.cols(), draw);
    const Eigen::VectorXd of_values = Eigen::VectorXd::NullaryExpr(own.size(), draw);
    return by_blocks * of_blocks + own.cwiseProduct(of_values) + draw() * by_slowdown;
  }
};

TimesInDoubt times_in_uncertainty(const std::vector<WorkersCurve>& curves, double x,
                                  const Eigen::MatrixXd& moved_by_blocks) {
  const auto values = static_cast<Eigen::Index>(curves.size());
  const auto blocks = static_cast<double>(moved_by_blocks.cols());
  TimesInDoubt uncertainty{std::sqrt((blocks - 1) / blocks) * moved_by_blocks, Eigen::VectorXd(values),
                           Eigen::VectorXd(values)};
  for (Eigen::Index i = 0; i < values; ++i) {
    const SeriesCurve& curve = *curves[static_cast<std::size_t>(i)].curve;
    std::vector<StandardError> errors = curve.errors_beside_blocks(x, false);
    errors.push_back({curve.uncertainty_at(x) / normal_95});
    uncertainty.own(i) = sum_of(errors).half_width() / normal_95;
    uncertainty.by_slowdown(i) = curve.adjustment.slope * curve.full_speed_sd;
  }
  return uncertainty;
}

WorkerTimes moved(const WorkerTimes& times, const Eigen::VectorXd& log_by) {
  WorkerTimes moved = times;
  for (std::size_t i = 0; i < moved.ms.size(); ++i) moved.ms[i] *= std::exp(log_by(static_cast<Eigen::Index>(i)));
  return moved;
}

/// Standard error of the serial share by small moves of the times.
StandardError error_of_serial(const WorkerTimes& times, const TimesInDoubt& uncertainty) {
  const Eigen::Index values = uncertainty.own.size();
  Eigen::RowVectorXd by_time(values);
  for (Eigen::Index i = 0; i < values; ++i) {
    const Eigen::VectorXd small = small_move * Eigen::VectorXd::Unit(values, i);
    by_time(i) = (fit_scaling(moved(times, small))(0) - fit_scaling(moved(times, -small))(0)) / (2 * small_move);
  }
  const double of_blocks = (by_time * uncertainty.by_blocks).norm();
  const double beside =
      std::hypot(by_time.transpose().cwiseProduct(uncertainty.own).norm(), by_time * uncertainty.by_slowdown);
  return sum_of({{of_blocks, static_cast<double>(uncertainty.by_blocks.cols() - 1)}, {beside}});
}

/// 95 % of the serial shares that come out when log times move by all that is uncertain of them. Drawn, since the share
/// has ends at 0 and 1 that errors do not know.
Interval serial_interval(const WorkerTimes& times, const TimesInDoubt& uncertainty) {
  const double degrees = error_of_serial(times, uncertainty).degrees_of_freedom;
  const double widened = t_quantile(0.975, degrees) / normal_95;
  std::mt19937_64 random(serial_draws);
  std::vector<double> shares;
  for (int draw = 0; draw < serial_draws; ++draw)
    shares.push_back(fit_scaling(moved(times, widened * uncertainty.drawn(random)))(0));
  std::sort(shares.begin(), shares.end());
  const std::size_t beyond = shares.size() / 40;
  return {shares[beyond], std::min(1.0, shares[shares.size() - 1 - beyond])};
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
    scaling.serial_interval = serial_interval(times, times_in_uncertainty(curves, x, by_blocks));
  double max_workers = 1;
  for (const WorkersCurve& one : curves) max_workers = std::max(max_workers, one.workers);
  while (scaling.useful_workers < max_workers &&
         scaled_time(found, scaling.useful_workers + 1) <
             (1 - min_saved_by_a_worker) * scaled_time(found, scaling.useful_workers))
    ++scaling.useful_workers;
  return scaling;
}

}  // namespace mileage
