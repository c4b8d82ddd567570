#include "analysis/answers/goal.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "analysis/analysis.h"
#include "analysis/answers/break_even.h"
#include "analysis/answers/capacity.h"
#include "analysis/answers/questions.h"
#include "analysis/curves/curve.h"
#include "analysis/curves/difference.h"
#include "analysis/evidence/evidence_set.h"
#include "analysis/evidence/pairs.h"

namespace mileage {
namespace {

/// Collects the intervals of figures.
class Widest {
 public:
  void take(const Interval& interval) {
    ++reached_.figures;
    is_open_ = is_open_ || !interval.closed();
    if (is_open_) return;
    reached_.half_width = std::max(reached_.half_width.value_or(0), std::sqrt(*interval.high / *interval.low) - 1);
  }
  Reached reached() const { return is_open_ ? Reached{reached_.figures, std::nullopt} : reached_; }

 private:
  Reached reached_;
  bool is_open_ = false;
};

Reached reached_by_capacities(const EvidenceSet& evidence, double budget_ms) {
  Widest widest;
  for (const SeriesEvidence& series : evidence.series)
    if (const Capacity found = capacity(fit_series(series), budget_ms); found.at) widest.take(found.interval);
  return widest.reached();
}

/// At a single place, what a frame costs there is the question.
Reached reached_by_costs(const EvidenceSet& evidence) {
  Widest widest;
  for (const SeriesEvidence& series : evidence.series)
    if (const auto cost = fit_series(series).cost_at(series.x.front())) widest.take(cost->interval);
  return widest.reached();
}

Reached reached_by_capacities_for_99(const Study& study, const EvidenceWanted& wanted, double budget_ms) {
  Questions questions;
  questions.budgets_ms = {budget_ms};
  Widest widest;
  for (const SeriesCapacity& one : capacity_answer(analyse(study, wanted), questions).capacities)
    if (one.capacity.at) widest.take(one.tail ? one.tail->interval : Interval{});
  return widest.reached();
}

Reached reached_by_break_evens(const EvidenceSet& evidence, const std::vector<std::string>& between) {
  std::vector<Series> series;
  for (const SeriesEvidence& one : evidence.series) series.push_back(one.series);
  std::map<std::size_t, SeriesCurve> curves;
  const auto curve_of = [&](std::size_t one) -> const SeriesCurve& {
    const auto known = curves.find(one);
    return known != curves.end() ? known->second : curves.emplace(one, fit_series(evidence.series[one])).first->second;
  };
  Widest widest;
  for (const auto& [one, other] : compared_pairs(series, evidence.head.scenario, between))
    for (const BreakEven& found : break_evens(Pair(curve_of(one), curve_of(other))).break_evens)
      widest.take(found.interval);
  return widest.reached();
}

}  // namespace

Reached reached(const Study& study, const Goal& goal) {
  EvidenceWanted wanted;
  wanted.within_processes = true;
  const double budget_ms = goal.budget_ms > 0 ? goal.budget_ms : study.head.plan.budget_ms;
  if (goal.for_99) return reached_by_capacities_for_99(study, wanted, budget_ms);
  const EvidenceSet evidence = gather_evidence(study, wanted);
  if (goal.figure == "breakeven") return reached_by_break_evens(evidence, goal.between);
  const bool is_at_one_place = std::all_of(evidence.series.begin(), evidence.series.end(),
                                           [](const SeriesEvidence& one) { return one.x.size() == 1; });
  if (goal.figure.empty() && is_at_one_place) return reached_by_costs(evidence);
  return reached_by_capacities(evidence, budget_ms);
}

}  // namespace mileage
