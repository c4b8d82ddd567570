#include "tool/study_answers.h"

#include "analysis/answers/arrivals.h"
#include "analysis/answers/break_even.h"
#include "analysis/answers/capacity.h"
#include "analysis/answers/cost.h"
#include "analysis/answers/growth.h"
#include "analysis/answers/limits.h"
#include "analysis/answers/parts.h"
#include "types/text.h"
#include "views/views.h"
#include "views/words.h"

namespace mileage {

Answer capacity_of(const About& about, const Analysis& analysis, const Questions& questions) {
  const CapacityAnswer capacities = capacity_answer(analysis, questions);
  const PartsAnswer parts = parts_answer(analysis);
  const LimitsAnswer limits = limits_answer(analysis, parts, growth_answer(analysis, parts), questions);
  Answer view = capacity_view(about, capacities, limits);
  view.add(arrivals_view(about, arrivals_answer(analysis, questions), capacities));
  view.add(devices_view(about, parts));
  view.add(limits_view(about, limits));
  return view;
}

Answer first_answer(const About& about, const Analysis& analysis) {
  if (about.only_place) return cost_view(about, cost_answer(analysis, parts_answer(analysis), {}));
  Answer view;
  if (about.head.plan.goal.figure == "breakeven") {
    Questions questions;
    questions.between = about.head.plan.goal.between;
    view.add(break_even_view(about, break_even_answer(analysis, questions)));
  }
  view.add(capacity_of(about, analysis, {}));
  return view;
}

std::vector<std::string> next_commands(const About& about, const std::string& study) {
  const std::string first = about.only_place ? "cost --more " : about.series.size() > 1 ? "choose " : "curve ";
  return {pasted_command(first + shell_word(study)), pasted_command("report " + shell_word(study))};
}

}  // namespace mileage
