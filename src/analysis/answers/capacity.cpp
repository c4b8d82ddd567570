#include "analysis/answers/capacity.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include "analysis/analysis.h"
#include "analysis/answers/questions.h"
#include "analysis/curves/tail.h"
#include "analysis/evidence/time_spent.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/statistics.h"

namespace mileage {
Capacity capacity(const SeriesCurve& series, double budget_ms) {
  return capacity(series, std::vector<double>(static_cast<std::size_t>(series.draws()), budget_ms), budget_ms);
}

Capacity capacity(const SeriesCurve& series, const std::vector<double>& budgets_ms, double budget_ms) {
  Capacity answer;
  answer.budget_ms = budget_ms;
  const double log_budget = std::log(budget_ms);
  answer.at = budget_ms > 0 ? series.rise(log_budget) : std::nullopt;
  if (!answer.at && (budget_ms <= 0 || series.log_ms_at(series.min()) > log_budget)) {
    answer.none = NoCapacity::over_at_once;
  } else if (series.fails_from && answer.at.value_or(HUGE_VAL) >= *series.fails_from) {
    answer.at.reset();
    answer.none = NoCapacity::within_up_to_failure;
  } else if (!answer.at) {
    answer.none = series.is_extrapolated() ? NoCapacity::within_as_far_as_trusted : NoCapacity::within_as_measured;
  }
  if (!answer.at) return answer;
  answer.source = series.source_at(*answer.at);
  const Drawn budgets = Eigen::Map<const Drawn>(budgets_ms.data(), series.draws());
  answer.interval =
      interval_of(series.drawn_rise(budgets.max(1e-300).log()).log());  // nothing left: over budget at once
  for (auto* end : {&answer.interval.low, &answer.interval.high})
    if (*end) *end = std::exp(**end);
  if (const Step* step = series.step_at(*answer.at)) {  // anywhere inside it
    if (answer.interval.low) answer.interval.low = std::min(*answer.interval.low, step->before);
    if (answer.interval.high) answer.interval.high = std::max(*answer.interval.high, step->after);
    answer.at = step->before;
  }
  if (!answer.interval.low && !answer.interval.high)
    answer.interval_missing = "the cost is within noise of the budget on both sides";
  return answer;
}

namespace {

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
  const std::vector<double>& places = curve.places();
  const auto found = std::find_if(places.rbegin(), places.rend(), [&](double x) {
    return curve.ms_interval_at(x).high.value_or(HUGE_VAL) <= budget_ms;
  });
  return found == places.rend() ? places.front() : *found;
}

/// 99th percentile of a series' frames.
struct Tail {
  TailEvidence evidence;
  std::optional<SeriesCurve> curve;
};

std::vector<Tail> tails_of(const Analysis& analysis) {
  std::vector<Tail> tails;
  for (std::size_t i = 0; i < analysis.curves.size(); ++i) {
    Tail tail{gather_tail(analysis.evidence.series[i], analysis.curves[i]), {}};
    tail.curve = tail_curve(analysis.curves[i], tail.evidence);
    tails.push_back(std::move(tail));
  }
  return tails;
}

SeriesCapacity capacity_of(const Analysis& analysis, std::size_t series, const Tail& tail, double budget_ms) {
  const SeriesCurve& curve = analysis.curves[series];
  SeriesCapacity found{series, capacity(curve, budget_ms), {}, 0, 0, curve.min(), curve.max()};
  const bool is_within = !found.capacity.at && found.capacity.none != NoCapacity::over_at_once;
  if (is_within) found.holds_at_least = clear_of_budget_up_to(curve, budget_ms);
  found.tail_frames = tail.evidence.frames_near(found.capacity.at.value_or(curve.max()));
  if (tail.curve) {
    const Capacity read = capacity(*tail.curve, budget_ms);
    if (read.at) found.tail_frames = std::max(found.tail_frames, tail.evidence.frames_near(*read.at));
    const bool is_below_all = read.none == NoCapacity::over_at_once;  // With enough frames.
    if (is_below_all || found.tail_frames >= frames_for_tail) found.tail = read;
    found.tail_from = tail.curve->min();
  }
  // It has fewer places and may miss a step that limits the typical frame.
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

/// Series without a capacity whose recordings were capped within the budget.
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

/// Five blocks of three runs of 110 frames at budget length plus overhead, divided by the blocks' share of a study, in
/// steps of 5 s.
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
