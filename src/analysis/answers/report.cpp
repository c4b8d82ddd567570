#include "analysis/answers/report.h"

#include "analysis/analysis.h"

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
  report.maps = choice_maps(analysis, report.choices);
  report.growth = growth_answer(analysis, report.parts);
  report.limits = limits_answer(analysis, report.parts, report.growth, questions);
  report.frames = frames_answer(analysis, questions);
  const std::vector<std::string>& tuned = analysis.evidence.head.plan.tune;
  if (!tuned.empty()) report.tuning = tuning_answer(analysis, tuned, questions);
  report.ladder = ladder_answer(analysis, questions);
  report.ratios = against_answer(analysis, questions);
  report.curves = sampled_curves(analysis, steps_of_a_curve);
  return report;
}

}  // namespace mileage
