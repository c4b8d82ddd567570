#include "analysis/goal.h"

#include <algorithm>
#include <cmath>

#include "analysis/findings.h"
#include "analysis/yardstick_judge.h"

namespace mileage {
namespace {

void take(Reached& reached, bool& open, const Interval& interval) {
  ++reached.figures;
  open = open || !interval.closed();
  if (!open) reached.half_width = std::max(reached.half_width.value_or(0), std::sqrt(*interval.high / *interval.low) - 1);
}

}  // namespace

Reached reached(const Study& study, const Goal& goal) {
  Reached all;
  if (evidence_visits(study).empty()) return all;
  Questions questions;
  if (goal.budget_ms > 0) questions.budgets_ms = {goal.budget_ms};
  questions.between = goal.between;
  questions.compares = goal.figure == "breakeven";
  questions.within_runs = true;
  const Findings findings = analyse(study, questions);
  bool open = false;
  if (goal.figure == "breakeven") {
    for (const PairFinding& pair : findings.pairs)
      for (const BreakEven& one : pair.answer.break_evens) take(all, open, one.interval);
  } else {
    for (const CapacityFinding& one : findings.capacities)
      if (one.capacity.at) take(all, open, one.capacity.interval);
  }
  if (open) all.half_width.reset();
  return all;
}

}  // namespace mileage
