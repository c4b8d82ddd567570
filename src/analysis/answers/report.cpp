#include "analysis/answers/report.h"

#include "analysis/statistics/constants.h"

namespace mileage {

Report report_of(const Analysis& analysis, const Questions& questions) {
  Report report;
  report.about = mileage::about(analysis);
  report.parts = parts_answer(analysis);
  report.capacities = capacity_answer(analysis, questions);
  report.arrivals = arrivals_answer(analysis, questions);
  report.break_evens = break_even_answer(analysis, questions);
  report.costs = cost_answer(analysis, report.parts, questions);
  report.choices = choice_answer(analysis, questions);
  report.growth = growth_answer(analysis, report.parts, true);
  report.ratios = against_answer(analysis, slowest_variant(analysis));
  report.curves = sampled_curves(analysis, steps_of_a_curve);
  return report;
}

}  // namespace mileage
