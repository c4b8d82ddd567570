#include "analysis/answers/goal.h"

#include <algorithm>
#include <cmath>

#include "analysis/analysis.h"
#include "analysis/answers/break_even.h"
#include "analysis/answers/capacity.h"
#include "analysis/answers/questions.h"
#include "analysis/curves/series_curve.h"
#include "analysis/curves/pair.h"
#include "analysis/evidence/evidence_set.h"
#include "analysis/evidence/pairs.h"

namespace mileage {
namespace {

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

Reached reached_by_capacities(const Analysis& analysis, double budget_ms) {
  Widest widest;
  for (const SeriesCurve& curve : analysis.curves)
    if (const Capacity found = capacity(curve, budget_ms); found.at) widest.take(found.interval);
  return widest.reached();
}

/// At a single place the costs are the goal.
Reached reached_by_costs(const Analysis& analysis) {
  Widest widest;
  for (const SeriesCurve& curve : analysis.curves) widest.take(curve.ms_interval_at(curve.min()));
  return widest.reached();
}

Reached reached_by_capacities_for_99(const Analysis& analysis, double budget_ms) {
  Questions questions;
  questions.budgets_ms = {budget_ms};
  Widest widest;
  for (const SeriesCapacity& one : capacity_answer(analysis, questions).capacities)
    if (one.capacity.at) widest.take(one.tail ? one.tail->interval : Interval{});
  return widest.reached();
}

Reached reached_by_break_evens(const Analysis& analysis, const std::vector<std::string>& between) {
  std::vector<Series> series;
  for (const SeriesEvidence& one : analysis.evidence.series) series.push_back(one.series);
  Widest widest;
  for (const auto& [one, other] : compared_pairs(series, analysis.evidence.head.scenario, between))
    for (const BreakEven& found : break_evens(Pair(analysis.curves[one], analysis.curves[other])).break_evens)
      widest.take(found.interval);
  return widest.reached();
}

}  // namespace

Reached reached(const Study& study, const Goal& goal) {
  EvidenceWanted wanted;
  wanted.within_processes = true;
  const double budget_ms = goal.budget_ms > 0 ? goal.budget_ms : study.head.plan.budget_ms;
  Analysis analysis{gather_evidence(study, wanted), {}};
  analysis.curves = fit_curves(analysis.evidence, wanted.within_processes);
  if (goal.for_99) return reached_by_capacities_for_99(analysis, budget_ms);
  if (goal.figure == "breakeven") return reached_by_break_evens(analysis, goal.between);
  const bool is_at_one_place = std::all_of(analysis.curves.begin(), analysis.curves.end(),
                                           [](const SeriesCurve& one) { return one.places().size() == 1; });
  if (goal.figure.empty() && is_at_one_place) return reached_by_costs(analysis);
  return reached_by_capacities(analysis, budget_ms);
}

}  // namespace mileage
