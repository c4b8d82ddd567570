#include "analysis/answers/capacity.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <vector>

#include "analysis/analysis.h"
#include "analysis/answers/questions.h"
#include "analysis/curves/tail.h"
#include "analysis/evidence/time_spent.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/crossings.h"
#include "analysis/statistics/local_reading.h"
#include "analysis/statistics/statistics.h"

namespace mileage {
namespace {

std::vector<Crossing> budget_crossings(const Curve& curve, double log_budget) {
  return crossings([&](double x) { return curve.log_ms_at(x) - log_budget; }, curve.min(), curve.farthest());
}

/// The first point over the budget after one within it.
std::optional<Eigen::Index> first_point_over(const Points& points, double log_budget) {
  for (Eigen::Index i = 1; i < points.x.size(); ++i)
    if (points.log_ms(i - 1) <= log_budget && points.log_ms(i) > log_budget) return i;
  return std::nullopt;
}

/// First place where the points themselves rise through the budget.
std::optional<double> rise_between_points(const Points& points, double log_budget) {
  const auto over = first_point_over(points, log_budget);
  if (!over) return std::nullopt;
  const Eigen::Index i = *over;
  const double share = (log_budget - points.log_ms(i - 1)) / (points.log_ms(i) - points.log_ms(i - 1));
  return points.x(i - 1) * std::pow(points.x(i) / points.x(i - 1), share);
}

using LogCost = std::function<double(double)>;

/// One way of reading what a frame of a series takes, with all blocks and without each that counts.
struct Reading {
  LogCost all;
  std::vector<LogCost> leave_one_out;
  LogCost bend;    // half-width to add
  Interval range;  // where it may be used

  double slope_at(double x) const {
    const double step = 1.02;
    return (all(x * step) - all(x / step)) / (2 * std::log(step));
  }
};

/// Where the budget is inside the 95 % interval of the cost.
Interval where_unclear(const SeriesCurve& series, const Reading& reading, double log_budget, double at) {
  const auto is_clear = [&](double x) {
    Readings costs;
    for (const LogCost& cost : reading.leave_one_out) costs.emplace_back(cost(x));
    const auto width = half_width(series, x, costs, std::hypot(reading.bend(x), series.uncertainty_at(x)), 1);
    return width && std::fabs(reading.all(x) - log_budget) > *width;
  };
  return ambiguous_range(at, is_clear, reading.range);
}

/// From what the capacity is without each block; where it does not exist without one of them, from what the cost is.
void give_interval(const SeriesCurve& series, const Reading& reading, double log_budget, Capacity& answer) {
  const auto log_rise = [&](const LogCost& cost) -> std::optional<double> {
    const auto near = nearest_crossing(
        crossings([&](double x) { return cost(x) - log_budget; }, *reading.range.low, *reading.range.high), true,
        *answer.at);
    return near ? std::optional(std::log(near->x)) : std::nullopt;
  };
  Readings rises;
  for (const LogCost& cost : reading.leave_one_out) rises.push_back(log_rise(cost));
  const double slope = std::max(reading.slope_at(*answer.at), min_slope);
  const double bend = std::hypot(reading.bend(*answer.at), series.uncertainty_at(*answer.at));
  answer.interval = interval_from_log(std::log(*answer.at), half_width(series, *answer.at, rises, bend / slope, slope));
  if (!answer.interval.closed()) answer.interval = where_unclear(series, reading, log_budget, *answer.at);
  if (!answer.interval.low && !answer.interval.high)
    answer.interval_missing =
        series.blocks() < 3 ? "fewer than three blocks" : "the cost is within noise of the budget on both sides";
}

/// From the last count that is surely within the budget to the next that is surely over it, where the cost jumps
/// between them; false where it does not.
bool read_at_step(const SeriesCurve& series, double log_budget, Capacity& answer) {
  const Points& points = series.all.points;
  const auto over = first_point_over(points, log_budget);
  if (!over || series.all.steps.empty()) return false;
  Interval interval;
  for (Eigen::Index i = *over - 1; i >= 0 && !interval.low; --i)
    if (series.ms_interval_of_point(i).high.value_or(HUGE_VAL) < answer.budget_ms) interval.low = points.x(i);
  for (Eigen::Index i = *over; i < points.x.size() && !interval.high; ++i)
    if (series.ms_interval_of_point(i).low.value_or(0) > answer.budget_ms) interval.high = points.x(i);
  if (!is_step_between(interval.low.value_or(points.x(*over - 1)), interval.high.value_or(points.x(*over)),
                       series.all.steps))
    return false;
  answer.at = points.x(*over - 1);
  answer.source = Source::step;
  answer.interval = interval;
  if (!interval.low && !interval.high)
    answer.interval_missing = "the cost is within noise of the budget around the jump";
  return true;
}

/// From the counts close around the place where the points rise, on its side of a step; false where none stand close
/// enough.
bool read_locally(const SeriesCurve& series, double log_budget, Capacity& answer) {
  const auto rise = rise_between_points(series.all.points, log_budget);
  const auto window =
      rise ? window_around(on_the_side_of(*rise, series.all.points, series.all.steps), *rise) : std::nullopt;
  const auto fit = window ? LocalFit::through(series.all.points, *window, series.all.noise) : std::nullopt;
  answer.at = fit ? fit->crossing(log_budget, true) : std::nullopt;
  if (!answer.at) return false;
  answer.source = Source::local;
  const auto log_cost = [](const LocalFit& one) { return [one](double x) { return one.value_at(x); }; };
  Reading reading{log_cost(*fit), {}, [&](double x) { return fit->scatter_at(x); }, reach_of(*window)};
  for (const Curve* curve : series.without_counting_blocks())
    reading.leave_one_out.emplace_back(
        log_cost(LocalFit::through(curve->points, *window, series.all.noise).value_or(*fit)));
  give_interval(series, reading, log_budget, answer);
  return true;
}

/// What a law says of a capacity beyond the range, with all blocks and without each.
Interval said_by_law(const SeriesCurve& series, LawKind kind, double log_budget) {
  const auto rise_of = [&](const std::optional<LawFit>& fit) -> std::optional<double> {
    if (!fit) return std::nullopt;
    const auto rising = crossings([&](double x) { return log_ms_at(fit->law, x) - log_budget; }, series.all.min(),
                                  ends_looked_for * series.all.max());
    return rising.empty() ? std::nullopt : std::optional(std::log(rising.front().x));
  };
  const auto fit = fit_law(kind, series.all.smooth);
  const auto rise = rise_of(fit);
  if (!rise) return {};
  Readings rises;
  for (const Curve* curve : series.without_counting_blocks()) rises.push_back(rise_of(fit_law(kind, curve->smooth)));
  const double slope = std::max(exponent_at(fit->law, std::exp(*rise)), min_slope);
  const double at = std::exp(*rise);
  return interval_from_log(*rise, half_width(series, at, rises, series.uncertainty_at(at) / slope, slope));
}

/// The laws that may go on beyond the range: the one that the curve is read by, and two that bend more, unless the
/// noise rejects them.
std::vector<LawKind> laws_beyond(const SeriesCurve& series) {
  std::vector<LawKind> kinds{series.all.law->kind};
  for (const LawKind kind : {LawKind::linear_and_quadratic, LawKind::power}) {
    const auto test = std::find_if(series.all.tests.begin(), series.all.tests.end(),
                                   [&](const LawTest& one) { return one.fit.law.kind == kind; });
    const bool is_rejected = test != series.all.tests.end() && test->rejected;
    if (kind != kinds.front() && !is_rejected) kinds.push_back(kind);
  }
  return kinds;
}

/// The hull of what those laws say, widened by a knee that may come (a factor of 1.5 in the slope).
Interval interval_beyond(const SeriesCurve& series, double log_budget) {
  const double max = series.all.max();
  double low = HUGE_VAL;
  double high = 0;
  for (const LawKind kind : laws_beyond(series)) {
    const Interval said = said_by_law(series, kind, log_budget);
    if (kind == series.all.law->kind && !said.closed()) return said;
    low = std::min(low, said.low.value_or(HUGE_VAL));
    high = std::max(high, said.high.value_or(0));
  }
  const double doublings = std::max(0.0, std::log2(high / max));
  high *= beyond_range_high * (1 + beyond_range_each_doubling * doublings);
  if (low > max) low = max + (low - max) / knee_beyond_range;
  return {low, high};
}

/// Widens to the capacities of the steepest and the flattest law where the shape between two distant points is unknown.
void widen_by_unknown_shape(const Curve& curve, double log_budget, Capacity& answer) {
  const auto crossing_of = [&](std::optional<double> Interval::*end) {
    const auto found =
        crossings([&](double x) { return curve.log_ms_at(x) + *(curve.unknown_shape_at(x).*end) - log_budget; },
                  curve.min(), curve.max());
    return found.empty() ? *answer.at : found.front().x;
  };
  if (answer.interval.low) *answer.interval.low *= std::min(1.0, crossing_of(&Interval::high) / *answer.at);
  if (answer.interval.high) *answer.interval.high *= std::max(1.0, crossing_of(&Interval::low) / *answer.at);
}

/// From a law, or between the points.
bool read_from_curve(const SeriesCurve& series, double log_budget, Capacity& answer) {
  const auto rising = budget_crossings(series.all, log_budget);
  const auto first = std::find_if(rising.begin(), rising.end(), [](const Crossing& one) { return one.upward; });
  if (first == rising.end()) return false;
  answer.at = first->x;
  answer.source = series.all.source_at(*answer.at);
  const auto log_cost = [](const Curve& curve) { return [&curve](double x) { return curve.log_ms_at(x); }; };
  Reading reading{log_cost(series.all),
                  {},
                  [&](double x) { return series.all.interpolation_error(x); },
                  {series.all.min(), series.all.farthest()}};
  for (const Curve* curve : series.without_counting_blocks()) reading.leave_one_out.emplace_back(log_cost(*curve));
  give_interval(series, reading, log_budget, answer);
  if (answer.source == Source::extrapolated) answer.interval = interval_beyond(series, log_budget);
  if (answer.source == Source::interpolated) widen_by_unknown_shape(series.all, log_budget, answer);
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
  const bool is_read = read_at_step(series, log_budget, answer) || read_locally(series, log_budget, answer) ||
                       read_from_curve(series, log_budget, answer);
  if (series.fails_from && (!is_read || *answer.at >= *series.fails_from)) {
    answer = Capacity();
    answer.budget_ms = budget_ms;
    answer.none = NoCapacity::within_up_to_failure;
  } else if (!is_read) {
    answer.none = series.all.is_read_from_law ? NoCapacity::within_as_far_as_trusted : NoCapacity::within_as_measured;
  }
  return answer;
}

namespace {

/// What 99 % of a series' frames stay below.
struct Tail {
  TailEvidence evidence;
  std::optional<SeriesCurve> curve;
};

std::vector<Tail> tails_of(const Analysis& analysis) {
  std::vector<Tail> tails;
  for (std::size_t i = 0; i < analysis.curves.size(); ++i) {
    const SeriesEvidence& series = analysis.evidence.series[i];
    const SlowdownCorrection& adjustment = analysis.curves[i].adjustment;
    Tail tail{gather_tail(series, adjustment, analysis.evidence.blocks), {}};
    tail.curve = fit_tail(series, adjustment, tail.evidence);
    tails.push_back(std::move(tail));
  }
  return tails;
}

double overhead_near(const SeriesEvidence& evidence, double x) {
  const auto distance = [&](const JudgedRun* one) { return std::fabs(std::log(one->x / x)); };
  double min = HUGE_VAL;
  for (const JudgedRun* one : evidence.runs) min = std::min(min, distance(one));
  std::vector<double> seconds;
  for (const JudgedRun* one : evidence.runs)
    if (distance(one) <= min) seconds.push_back(overhead_s(*one->run));
  return seconds.empty() ? 0 : median(seconds);
}

double clear_of_budget_up_to(const SeriesCurve& curve, double budget_ms) {
  const Eigen::ArrayXd& places = curve.all.points.x;
  for (Eigen::Index i = places.size() - 1; i > 0; --i) {
    const auto cost = curve.cost_at(places(i));
    if (!cost || !cost->interval.high) return places(i);
    if (*cost->interval.high <= budget_ms) return places(i);
  }
  return places(0);
}

SeriesCapacity capacity_of(const Analysis& analysis, std::size_t series, const Tail& tail, double budget_ms) {
  const SeriesCurve& curve = analysis.curves[series];
  SeriesCapacity found{series, capacity(curve, budget_ms), {}, 0, 0, curve.all.min(), curve.all.max()};
  const bool is_within = !found.capacity.at && found.capacity.none != NoCapacity::over_at_once;
  if (is_within) found.holds_at_least = clear_of_budget_up_to(curve, budget_ms);
  found.tail_frames = tail.evidence.frames_near(found.capacity.at.value_or(curve.all.max()));
  if (tail.curve) {
    const Capacity read = capacity(*tail.curve, budget_ms);
    if (read.at) found.tail_frames = std::max(found.tail_frames, tail.evidence.frames_near(*read.at));
    const bool is_below_all = read.none == NoCapacity::over_at_once;  // where there are frames enough
    if (is_below_all || found.tail_frames >= frames_for_tail) found.tail = read;
    found.tail_from = tail.curve->all.min();
  }
  // It rests on fewer places, and may not see a step that ends the typical frame's capacity.
  const bool is_beyond = found.tail && found.tail->at && found.capacity.at && *found.tail->at > *found.capacity.at;
  if (is_beyond && found.capacity.source == Source::step) found.tail.reset();
  return found;
}

Headroom headroom_of(double budget_ms, double x, std::size_t series, const SeriesCurve& curve) {
  Headroom headroom{budget_ms, x, series, curve.cost_at(x)};
  if (headroom.cost) headroom.share = headroom.cost->ms / budget_ms;
  if (headroom.cost) headroom.left_ms = budget_ms - headroom.cost->ms;
  return headroom;
}

}  // namespace

namespace {

/// Of series that have no capacity for a budget and were recorded with a cap that holds it.
std::vector<CapacityBound> bounds_for(const Analysis& analysis, const CapacityAnswer& answer, double budget_ms) {
  std::vector<CapacityBound> bounds;
  for (const Bound& one : analysis.evidence.bounds) {
    if (one.at_most_ms > budget_ms * cap_holds_within) continue;
    auto known =
        std::find_if(bounds.begin(), bounds.end(), [&](const auto& other) { return other.label == one.label; });
    if (known == bounds.end()) known = bounds.insert(bounds.end(), {one.label, budget_ms, one.x, {}});
    known->at_least = std::max(known->at_least, one.x);
  }
  for (const SeriesCapacity& one : answer.capacities) {
    if (one.capacity.budget_ms != budget_ms) continue;
    const std::string& label = analysis.evidence.series[one.series].label;
    std::erase_if(bounds, [&](const CapacityBound& bound) {
      return bound.label == label && one.capacity.none != NoCapacity::over_at_once;
    });
    for (CapacityBound& bound : bounds)
      if (bound.label == label && one.measured_from > bound.at_least) bound.below = one.measured_from;
  }
  return bounds;
}

}  // namespace

namespace {

/// Runs of 110 frames as long as the budget, with what they take besides: five blocks of three in the share of a study
/// that blocks have. In whole steps of 5 s.
double time_for_99_s(const Analysis& analysis, const CapacityAnswer& answer, double budget_ms) {
  const double frame_s = 1e-3 * budget_ms * std::max(1.0, analysis.evidence.quiet.slowness.value_or(1));
  double besides_s = 0;
  for (const SeriesCapacity& one : answer.capacities)
    if (one.capacity.budget_ms == budget_ms && one.capacity.at)
      besides_s = std::max(besides_s, overhead_near(analysis.evidence.series[one.series], *one.capacity.at));
  const double whole_s = runs_for_99 * (frames_of_a_run_for_99 * frame_s + besides_s) / share_of_blocks;
  return times_in_steps_of_s * std::ceil(whole_s / times_in_steps_of_s);
}

}  // namespace

CapacityAnswer capacity_answer(const Analysis& analysis, const Questions& questions) {
  CapacityAnswer answer;
  answer.budgets_ms = questions.budgets_of(analysis.evidence);
  answer.reserve_ms = questions.reserve_ms;
  const std::vector<Tail> tails = tails_of(analysis);
  for (const double budget_ms : answer.budgets_ms) {
    for (std::size_t i = 0; i < analysis.curves.size(); ++i)
      answer.capacities.push_back(capacity_of(analysis, i, tails[i], budget_ms));
    for (CapacityBound& bound : bounds_for(analysis, answer, budget_ms)) answer.bounds.push_back(std::move(bound));
    for (const double x : questions.at)
      for (std::size_t i = 0; i < analysis.curves.size(); ++i)
        answer.headroom.push_back(headroom_of(budget_ms, x, i, analysis.curves[i]));
    answer.times_for_99_s.push_back(time_for_99_s(analysis, answer, budget_ms));
  }
  return answer;
}

}  // namespace mileage
