#include "analysis/next_recording.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace mileage {
namespace {

constexpr double close_by = 1.15;
constexpr double step_beyond = 2;

/// Two digits: nobody sets up 12,347 lanterns by hand.
std::int64_t rounded(double count) {
  const double unit = std::pow(10, std::floor(std::log10(std::max(1.0, count))) - 1);
  return std::max<std::int64_t>(1, std::llround(unit < 1 ? count : std::round(count / unit) * unit));
}

/// Ratio of the ends of its interval; infinite where it has none.
double spread(const CapacityFinding& one) {
  const Interval& interval = one.capacity.interval;
  return one.capacity.at && interval.closed() ? *interval.high / *interval.low : std::numeric_limits<double>::infinity();
}

}  // namespace

NextRecording next_recording(const Findings& findings) {
  const std::size_t series_count = findings.series.size();
  const auto begin = findings.capacities.begin();
  const auto end = begin + static_cast<std::ptrdiff_t>(std::min(series_count, findings.capacities.size()));
  const CapacityFinding& widest = *std::max_element(begin, end, [](const CapacityFinding& a, const CapacityFinding& b) { return spread(a) < spread(b); });
  const SeriesFinding& series = findings.series[widest.series];
  const std::vector<PointFinding>& points = series.points;
  const auto capped = std::find_if(findings.bounds.rbegin(), findings.bounds.rend(), [&](const BoundFinding& one) { return one.label == series.label; });
  if (!widest.capacity.at && capped != findings.bounds.rend())
    return {series.label, static_cast<std::int64_t>(std::llround(capped->x)), "only a bound is known there: lift the cap first"};
  if (!widest.capacity.at) {
    const bool over = widest.capacity.none == NoCapacity::over_at_once;
    return {series.label, rounded(over ? points.front().x / step_beyond : points.back().x * step_beyond),
            over ? "its smallest count is over the budget already" : "its largest count still holds the budget"};
  }
  const double at = *widest.capacity.at;
  const bool has_near = std::any_of(points.begin(), points.end(), [&](const PointFinding& point) { return point.x < at * close_by && point.x > at / close_by; });
  if (!has_near) return {series.label, rounded(at), "no count stands close to its capacity"};
  const auto nearest = std::min_element(points.begin(), points.end(), [&](const PointFinding& a, const PointFinding& b) {
    return std::fabs(std::log(a.x / at)) < std::fabs(std::log(b.x / at));
  });
  return {series.label, static_cast<std::int64_t>(std::llround(nearest->x)), "its capacity has the widest interval, and another run narrows it"};
}

}  // namespace mileage
