#include "analysis/answers/scaling.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <vector>

#include <Eigen/Core>

#include "analysis/curves/series_curve.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/non_negative.h"

namespace mileage {
namespace {

struct WorkerTimes {
  std::vector<double> workers;
  std::vector<double> ms;
};

/// Coefficients of T(w) = serial + parallel / w + contention (w - 1), relative to T(1), each >= 0.
Eigen::Vector3d fit_scaling(const WorkerTimes& times) {
  const auto rows = static_cast<Eigen::Index>(times.workers.size());
  Eigen::MatrixXd terms(rows, 3);
  Eigen::VectorXd ones = Eigen::VectorXd::Ones(rows);
  // Rows are divided by their time, for relative residuals.
  for (Eigen::Index i = 0; i < rows; ++i) {
    const double w = times.workers[static_cast<std::size_t>(i)];
    const double ms = times.ms[static_cast<std::size_t>(i)];
    terms.row(i) << 1 / ms, 1 / w / ms, (w - 1) / ms;
  }
  const Eigen::Vector3d found = non_negative_least_squares(terms, ones);
  const double of_one = found(0) + found(1);
  return of_one > 0 ? Eigen::Vector3d(found / of_one) : Eigen::Vector3d(1, 0, 0);
}

double scaled_time(const Eigen::Vector3d& of, double workers) {
  return of(0) + of(1) / workers + of(2) * (workers - 1);
}

Interval serial_interval(const std::vector<WorkersCurve>& curves, double x) {
  std::vector<Drawn> log_ms;
  WorkerTimes times;
  for (const WorkersCurve& one : curves) {
    log_ms.push_back(one.curve->drawn_log_ms(x));
    times.workers.push_back(one.workers);
    times.ms.push_back(0);
  }
  Drawn shares(log_ms.front().size());
  for (Eigen::Index draw = 0; draw < shares.size(); ++draw) {
    for (std::size_t i = 0; i < log_ms.size(); ++i) times.ms[i] = std::exp(log_ms[i](draw));
    shares(draw) = std::clamp(fit_scaling(times)(0), 0.0, 1.0);
  }
  return interval_of(std::move(shares));
}

}  // namespace

Scaling scaling_of(const std::vector<WorkersCurve>& curves, double x) {
  Scaling scaling;
  scaling.x = x;
  scaling.values = curves.size();
  WorkerTimes times;
  for (const WorkersCurve& one : curves) {
    times.workers.push_back(one.workers);
    times.ms.push_back(one.curve->ms_at(x));
  }
  const Eigen::Vector3d found = fit_scaling(times);
  scaling.serial = found(0);
  scaling.contention = found(2);
  if (curves.size() >= values_for_scaling) scaling.serial_interval = serial_interval(curves, x);
  double max_workers = 1;
  for (const WorkersCurve& one : curves) max_workers = std::max(max_workers, one.workers);
  while (scaling.useful_workers < max_workers &&
         scaled_time(found, scaling.useful_workers + 1) <
             (1 - min_saved_by_a_worker) * scaled_time(found, scaling.useful_workers))
    ++scaling.useful_workers;
  return scaling;
}

}  // namespace mileage
