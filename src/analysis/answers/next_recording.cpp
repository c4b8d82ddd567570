#include "analysis/answers/next_recording.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include "analysis/statistics/constants.h"

namespace mileage {
namespace {

/// Two digits: easy to set up by hand.
std::int64_t rounded(double count) {
  const double unit = std::pow(10, std::floor(std::log10(std::max(1.0, count))) - 1);
  return std::max<std::int64_t>(1, std::llround(unit < 1 ? count : std::round(count / unit) * unit));
}

/// Ratio of the ends; infinite if open.
double spread(const SeriesCapacity& one) {
  const Interval& interval = one.capacity.interval;
  return one.capacity.at && interval.closed() ? *interval.high / *interval.low
                                              : std::numeric_limits<double>::infinity();
}

}  // namespace

NextRecording next_recording(const About& about, const CapacityAnswer& capacities, const GrowthAnswer& growth) {
  const auto begin = capacities.capacities.begin();
  const auto of_first_budget = std::min(about.series.size(), capacities.capacities.size());
  const SeriesCapacity& widest =
      *std::max_element(begin, begin + static_cast<std::ptrdiff_t>(of_first_budget),
                        [](const SeriesCapacity& a, const SeriesCapacity& b) { return spread(a) < spread(b); });
  const std::string& label = about.label(widest.series);
  const std::vector<CurvePoint>& points = growth.series[widest.series].points;
  const auto capped =
      std::find_if(about.bounds.rbegin(), about.bounds.rend(), [&](const Bound& one) { return one.label == label; });
  if (!widest.capacity.at && capped != about.bounds.rend())
    return {label, static_cast<std::int64_t>(std::llround(capped->x)), "only a bound is known there (record uncapped)"};
  if (!widest.capacity.at) {
    const bool over = widest.capacity.none == NoCapacity::over_at_once;
    return {label, rounded(over ? points.front().x / recording_step_beyond : points.back().x * recording_step_beyond),
            over ? "its smallest count is over the budget" : "its largest count still fits the budget"};
  }
  const double at = *widest.capacity.at;
  const bool has_near = std::any_of(points.begin(), points.end(), [&](const CurvePoint& point) {
    return point.x < at * recording_close_by && point.x > at / recording_close_by;
  });
  if (!has_near) return {label, rounded(at), "no count is close to its capacity"};
  const auto nearest = std::min_element(points.begin(), points.end(), [&](const CurvePoint& a, const CurvePoint& b) {
    return std::fabs(std::log(a.x / at)) < std::fabs(std::log(b.x / at));
  });
  return {label, static_cast<std::int64_t>(std::llround(nearest->x)), "its capacity has the widest interval"};
}

}  // namespace mileage
