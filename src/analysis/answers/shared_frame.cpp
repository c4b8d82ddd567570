#include "analysis/answers/shared_frame.h"

#include <cmath>

#include <fmt/format.h>

#include "analysis/analysis.h"
#include "analysis/answers/questions.h"
#include "analysis/evidence/labels.h"
#include "analysis/statistics/constants.h"
#include "types/error.h"

namespace mileage {
namespace {

/// Nothing if the other system leaves no time.
std::optional<BesideOther> beside(const SeriesCurve& curve, const SeriesCurve& other, double other_x,
                                  double budget_ms) {
  const auto cost = other.cost_at(other_x);
  if (!cost || cost->ms >= budget_ms) return std::nullopt;
  const Drawn left_ms = budget_ms - other.drawn_log_ms(other_x).exp();
  return BesideOther{other_x, *cost, capacity(curve, {left_ms.begin(), left_ms.end()}, budget_ms - cost->ms)};
}

std::vector<double> places_over(const SeriesCurve& other) {
  std::vector<double> places;
  const double from = std::log(other.min());
  const double step = (std::log(other.max()) - from) / (places_of_a_map - 1);
  for (int i = 0; i < places_of_a_map; ++i) places.push_back(std::exp(from + step * i));
  places.front() = other.min();
  places.back() = other.max();
  return places;
}

Improvement improvement_of(const SeriesCurve& curve, double other_ms, double budget_ms) {
  const double left_ms = budget_ms - other_ms;
  return {capacity(curve, left_ms).at, capacity(curve, 2 * left_ms).at, capacity(curve, budget_ms - other_ms / 2).at};
}

std::size_t series_called(const EvidenceSet& evidence, const std::string& name) {
  std::vector<std::size_t> named;
  std::string labels;
  for (std::size_t i = 0; i < evidence.series.size(); ++i) {
    const SeriesEvidence& one = evidence.series[i];
    labels += (i == 0 ? "" : ", ") + one.label;
    if (name.empty() || one.label == name || is_called(one.series, name)) named.push_back(i);
  }
  if (named.size() == 1) return named.front();
  throw Error({.kind = FaultKind::usage,
               .field = "rest-variant",
               .problem = named.empty() ? "no such variant in the study of the rest"
                                        : "the study of the rest has several, and one is meant",
               .found = name,
               .accepted = labels});
}

}  // namespace

SharedFrameAnswer shared_frame_answer(const Analysis& analysis, const Analysis& other, const OtherAsked& asked,
                                      const Questions& questions) {
  const std::size_t other_series = series_called(other.evidence, asked.variant);
  const SeriesCurve& other_curve = other.curves[other_series];
  if (asked.at && !other_curve.covers(*asked.at))
    throw Error({.kind = FaultKind::usage,
                 .field = "rest-at",
                 .problem = "the rest was not measured there",
                 .found = fmt::format("{:.0f}", *asked.at)});
  const double budget_ms = questions.budgets_of(analysis.evidence).front();
  SharedFrameAnswer answer;
  answer.budget_ms = budget_ms;
  answer.other = other.evidence.series[other_series].label;
  answer.other_scenario = other.evidence.head.scenario.name;
  answer.other_things = other.evidence.axis.things;
  answer.other_at = asked.at;
  for (std::size_t i = 0; i < analysis.curves.size(); ++i) {
    if (analysis.evidence.series[i].series.is_floor()) continue;
    SharedSeries one;
    one.series = i;
    for (const double x : places_over(other_curve))
      if (const auto there = beside(analysis.curves[i], other_curve, x, budget_ms)) one.map.push_back(*there);
    if (asked.at) one.asked = beside(analysis.curves[i], other_curve, *asked.at, budget_ms);
    if (one.asked) one.improve = improvement_of(analysis.curves[i], one.asked->other.ms, budget_ms);
    answer.series.push_back(std::move(one));
  }
  return answer;
}

}  // namespace mileage
