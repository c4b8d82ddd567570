#include "analysis/statistics/slowdown_drift.h"

#include <algorithm>
#include <cmath>
#include <utility>
#include <vector>

#include "analysis/statistics/cell_means.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/statistics.h"

namespace mileage {
namespace {

/// One cell's difference from the mean of its row, block effects left in.
struct Residual {
  double order;
  Eigen::Index block;
  double value;
};

std::vector<Residual> residuals_in_order(const Eigen::ArrayXXd& log_ms, const Eigen::ArrayXXd& order) {
  const Eigen::ArrayXd slowdown = cell_means(log_ms).log_ms;
  std::vector<Residual> residuals;
  std::vector<double> values;
  for (Eigen::Index row = 0; row < log_ms.rows(); ++row)
    for (Eigen::Index block = 0; block < log_ms.cols(); ++block)
      if (log_ms(row, block) == log_ms(row, block)) {
        residuals.push_back({order(row, block), block, log_ms(row, block) - slowdown(row)});
        values.push_back(residuals.back().value);
      }
  const double limit = drift_spike_beyond * robust_sd(values);
  double mean = 0;
  for (Residual& residual : residuals) {
    residual.value = std::clamp(residual.value, -limit, limit);
    mean += residual.value / static_cast<double>(residuals.size());
  }
  for (Residual& residual : residuals) residual.value -= mean;
  std::sort(residuals.begin(), residuals.end(), [](const Residual& a, const Residual& b) { return a.order < b.order; });
  return residuals;
}

double autocovariance(const std::vector<Residual>& residuals, std::size_t lag) {
  double sum = 0;
  for (std::size_t i = lag; i < residuals.size(); ++i) sum += residuals[i].value * residuals[i - lag].value;
  return sum / static_cast<double>(residuals.size());
}

/// Variance of the mean of a series that may be correlated.
double variance_of_mean(const std::vector<Residual>& residuals) {
  const std::size_t n = residuals.size();
  double sum = -autocovariance(residuals, 0);
  std::size_t lags = 0;
  for (; lags + 1 < n / 2; lags += 2) {
    const double pair = autocovariance(residuals, lags) + autocovariance(residuals, lags + 1);
    if (pair <= 0) break;
    sum += 2 * pair;
  }
  // Taking off the mean lowers every autocovariance by the variance of that mean.
  const double lowered_by = std::min(0.5, 2 * static_cast<double>(lags) / static_cast<double>(n));
  return std::max(0.0, sum) / static_cast<double>(n) / (1 - lowered_by);
}

/// What blocks show of it, as if they were independent.
double variance_between_blocks(const std::vector<Residual>& residuals, Eigen::Index blocks) {
  std::vector<std::pair<double, int>> sums(static_cast<std::size_t>(blocks), {0.0, 0});
  for (const Residual& residual : residuals) {
    sums[static_cast<std::size_t>(residual.block)].first += residual.value;
    ++sums[static_cast<std::size_t>(residual.block)].second;
  }
  std::vector<double> means;
  for (const auto& [sum, runs] : sums)
    if (runs > 0) means.push_back(sum / runs);
  if (means.size() < drift_fewest_blocks) return HUGE_VAL;
  double mean = 0;
  for (const double one : means) mean += one / static_cast<double>(means.size());
  double squares = 0;
  for (const double one : means) squares += (one - mean) * (one - mean);
  return squares / static_cast<double>(means.size() - 1) / static_cast<double>(means.size());
}

}  // namespace

double slowdown_drift_error(const Eigen::ArrayXXd& log_ms, const Eigen::ArrayXXd& order) {
  const std::vector<Residual> residuals = residuals_in_order(log_ms, order);
  if (residuals.size() < drift_fewest_runs) return 0;
  const double variance = variance_of_mean(residuals);
  if (variance < drift_more_than_chance * autocovariance(residuals, 0) / static_cast<double>(residuals.size()))
    return 0;
  return std::sqrt(std::max(0.0, variance - variance_between_blocks(residuals, log_ms.cols())));
}

}  // namespace mileage
