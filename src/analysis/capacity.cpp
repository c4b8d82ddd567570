#include "analysis/capacity.h"

#include <cmath>

#include "analysis/crossings.h"

namespace mileage {
namespace {

std::vector<Crossing> budget_crossings(const Curve& curve, double log_budget) {
  return crossings([&](double x) { return curve.log_ms_at(x) - log_budget; }, curve.least(), curve.farthest());
}

std::optional<double> first_rise(const Curve& curve, double log_budget) {
  if (curve.log_ms_at(curve.least()) > log_budget) return std::nullopt;
  for (const Crossing& one : budget_crossings(curve, log_budget))
    if (one.upward) return one.x;
  return std::nullopt;
}

std::string why_none(const Curve& curve, double log_budget) {
  if (curve.log_ms_at(curve.least()) > log_budget) return "over the budget already at the smallest count measured";
  if (!curve.law) return "the largest count measured is within the budget, and no law describes the points; measure larger counts";
  return "within the budget up to four times the largest count measured, where extrapolating ends; measure larger counts";
}

/// Logarithm of the capacity without each block, of the rise nearest to the one found with all blocks.
Readings readings_without(const SeriesCurve& series, double log_budget, double found) {
  Readings readings;
  for (std::size_t block = 0; block < series.without.size(); ++block) {
    if (!series.block_counts[block]) continue;
    const auto near = nearest_crossing(budget_crossings(series.without[block], log_budget), true, found);
    readings.push_back(near ? std::optional<double>(std::log(near->x)) : std::nullopt);
  }
  return readings;
}

}  // namespace

Capacity capacity(const SeriesCurve& series, double budget_ms) {
  Capacity answer;
  answer.budget_ms = budget_ms;
  const double log_budget = std::log(budget_ms);
  answer.at = first_rise(series.all, log_budget);
  if (!answer.at) {
    answer.reason = why_none(series.all, log_budget);
    return answer;
  }
  answer.source = series.all.source_at(*answer.at);
  const auto log_cost = [&](double x) { return series.all.log_ms_at(x); };
  const double bend = along_axis(log_cost, series.all.bend_at(*answer.at), *answer.at);
  const auto width = half_width(readings_without(series, log_budget, *answer.at), bend);
  answer.interval = around(std::log(*answer.at), width);
  if (!width)
    answer.interval_missing = series.blocks() < 3 ? "fewer than three blocks" : "not reached without one of the blocks";
  return answer;
}

}  // namespace mileage
