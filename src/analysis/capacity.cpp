#include "analysis/capacity.h"

#include <cmath>

#include "analysis/crossings.h"
#include "analysis/local_reading.h"

namespace mileage {
namespace {

std::vector<Crossing> budget_crossings(const Curve& curve, double log_budget) {
  return crossings([&](double x) { return curve.log_ms_at(x) - log_budget; }, curve.least(), curve.farthest());
}

/// First place where the points themselves rise through the budget.
std::optional<double> rise_between_points(const Points& points, double log_budget) {
  for (Eigen::Index i = 1; i < points.x.size(); ++i) {
    if (points.log_ms(i - 1) > log_budget || points.log_ms(i) <= log_budget) continue;
    const double share = (log_budget - points.log_ms(i - 1)) / (points.log_ms(i) - points.log_ms(i - 1));
    return points.x(i - 1) * std::pow(points.x(i) / points.x(i - 1), share);
  }
  return std::nullopt;
}

std::optional<double> rise_through(const std::optional<LocalFit>& fit, double log_budget) {
  return fit ? fit->crossing(log_budget, true) : std::nullopt;
}

/// Readings of the logarithm of a place without each block that counts.
template <class Read>
Readings readings_without(const SeriesCurve& series, Read read) {
  Readings readings;
  for (std::size_t block = 0; block < series.without.size(); ++block) {
    if (!series.block_counts[block]) continue;
    const std::optional<double> place = read(series.without[block]);
    readings.push_back(place ? std::optional<double>(std::log(*place)) : std::nullopt);
  }
  return readings;
}

void give_interval(const SeriesCurve& series, const Readings& readings, double bend, Capacity& answer) {
  const double step = 1.05;
  const double slope = (series.all.log_ms_at(*answer.at * step) - series.all.log_ms_at(*answer.at / step)) / (2 * std::log(step));
  const auto width = half_width(series, readings, bend, slope);
  answer.interval = around(std::log(*answer.at), width);
  if (!width) answer.interval_missing = series.blocks() < 3 ? "fewer than three blocks" : "not reached without one of the blocks";
}

/// From the counts close around the place where the points rise; false where none stand close enough.
bool read_locally(const SeriesCurve& series, double log_budget, Capacity& answer) {
  const auto rise = rise_between_points(series.all.points, log_budget);
  const auto window = rise ? window_around(series.all.points, *rise) : std::nullopt;
  if (!window) return false;
  const auto fit = LocalFit::through(series.all.points, *window);
  answer.at = rise_through(fit, log_budget);
  if (!answer.at) return false;
  answer.source = Source::local;
  const auto rise_without = [&](const Curve& curve) { return rise_through(LocalFit::through(curve.points, *window), log_budget); };
  give_interval(series, readings_without(series, rise_without), fit->scatter_width(*answer.at, series.all.noise), answer);
  return true;
}

/// From a law, or between the points.
bool read_from_curve(const SeriesCurve& series, double log_budget, Capacity& answer) {
  for (const Crossing& one : budget_crossings(series.all, log_budget))
    if (one.upward && !answer.at) answer.at = one.x;
  if (!answer.at) return false;
  answer.source = series.all.source_at(*answer.at);
  const auto log_cost = [&](double x) { return series.all.log_ms_at(x); };
  const auto nearest_rise = [&](const Curve& curve) -> std::optional<double> {
    const auto near = nearest_crossing(budget_crossings(curve, log_budget), true, *answer.at);
    return near ? std::optional(near->x) : std::nullopt;
  };
  give_interval(series, readings_without(series, nearest_rise), along_axis(log_cost, series.all.bend_at(*answer.at), *answer.at), answer);
  return true;
}

}  // namespace

Capacity capacity(const SeriesCurve& series, double budget_ms) {
  Capacity answer;
  answer.budget_ms = budget_ms;
  const double log_budget = std::log(budget_ms);
  if (series.all.points.log_ms(0) > log_budget) {
    answer.none = NoCapacity::over_at_once;
    return answer;
  }
  if (!read_locally(series, log_budget, answer) && !read_from_curve(series, log_budget, answer))
    answer.none = series.all.law_reads ? NoCapacity::within_as_far_as_trusted : NoCapacity::within_as_measured;
  return answer;
}

}  // namespace mileage
