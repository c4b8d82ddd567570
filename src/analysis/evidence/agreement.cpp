#include "analysis/evidence/agreement.h"

#include <algorithm>
#include <cmath>

#include "analysis/evidence/by_series.h"

namespace mileage {
namespace {

using Checks = std::vector<const Visit*>;

/// The check of a series as it is, at a count.
const Visit* plain_check(const Checks& checks, std::int64_t count) {
  for (const Visit* check : checks)
    if (check->count == count && check->varied == Knobs{}) return check;
  return nullptr;
}

/// An earlier check of the very same run.
const Visit* earlier_run(const Checks& checks, const Visit& check) {
  for (const Visit* earlier : checks) {
    if (earlier == &check) return nullptr;
    if (earlier->count == check.count && earlier->varied == check.varied) return earlier;
  }
  return nullptr;
}

double excess(const Disagreement& one) {
  const double difference = std::fabs(one.expected - one.found);
  return std::isfinite(difference) ? difference / std::max(one.tolerance, 1e-300) : HUGE_VAL;
}

double relative_error(const Outcome& reference, const Outcome& other) {
  double largest = 0;
  for (const Quantity& expected : reference.quantities())
    for (const Quantity& found : other.quantities())
      if (found.name == expected.name) {
        const double size = std::max({std::fabs(expected.value), expected.scale, 1e-300});
        largest = std::max(largest, std::fabs(found.value - expected.value) / size);
      }
  return largest;
}

void take_worst(Agreement& agreement, const Visit& check, const std::vector<Disagreement>& differing) {
  for (const Disagreement& one : differing) {
    if (agreement.worst && excess(*agreement.worst) >= excess(one)) continue;
    agreement.worst = one;
    agreement.count = check.count;
    agreement.varied = check.varied;
  }
}

/// `checks` are sorted by the series as they were run: warm.
Agreement agreement_of(const Study& study, const BySeries<const Visit*>& checks, const Series& series) {
  Agreement agreement;
  agreement.series = series;
  const Scenario& scenario = study.head.scenario;
  const VariantFacts* facts = scenario.find(series.variant);
  const Series reference = reference_series(series, scenario, study.head.plan.series.front().build);
  bool unstable = false;
  bool checked = false;
  const Checks& own = checks.of(series.warm());
  const Checks& of_reference = checks.of(reference.warm());
  for (const Visit* made : own) {
    const Visit& check = *made;
    if (const Visit* earlier = earlier_run(own, check)) {
      const auto differing = disagreements(earlier->outcome, check.outcome);
      unstable = unstable || !differing.empty();
      take_worst(agreement, check, differing);
    }
    const Visit* correct = plain_check(of_reference, check.count);
    if (correct == nullptr || (correct->outcome.empty() && check.outcome.empty())) continue;
    checked = true;
    take_worst(agreement, check, disagreements(correct->outcome, check.outcome));
    agreement.largest_error = std::max(agreement.largest_error, relative_error(correct->outcome, check.outcome));
  }
  if (unstable)
    agreement.verdict = AgreementVerdict::unstable;
  else if (checked)
    agreement.verdict = !agreement.worst                         ? AgreementVerdict::agrees
                        : facts != nullptr && facts->approximate ? AgreementVerdict::approximate
                                                                 : AgreementVerdict::differs;
  return agreement;
}

}  // namespace

const std::string& reference_of(const Scenario& scenario) {
  return scenario.reference.empty() && !scenario.variants.empty() ? scenario.variants.front().name : scenario.reference;
}

Series reference_series(const Series& series, const Scenario& scenario, const std::string& first_build) {
  Series reference{reference_of(scenario), {}, 0, first_build};
  if (series.variant == reference.variant) reference.knobs = series.knobs;
  if (series.variant == reference.variant) return reference;
  const VariantFacts* facts = scenario.find(reference.variant);
  for (const Knob& knob : scenario.knobs) {
    if (!knob.is_touching(reference.variant)) continue;
    const auto same = series.knobs.values().find(knob.name);
    reference.knobs.set(knob.name, same == series.knobs.values().end() ? knob.preset : same->second);
  }
  if (facts != nullptr)
    for (const Knob& knob : facts->knobs) reference.knobs.set(knob.name, knob.preset);
  return reference;
}

std::vector<Agreement> agreements_of(const Study& study) {
  std::vector<Agreement> all;
  BySeries<const Visit*> checks;
  for (const Visit& visit : study.visits)
    if (visit.status == VisitStatus::check) checks.add(visit.series, &visit);
  for (const Series& series : study.head.plan.series) all.push_back(agreement_of(study, checks, series));
  return all;
}

}  // namespace mileage
