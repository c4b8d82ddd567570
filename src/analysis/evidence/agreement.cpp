#include "analysis/evidence/agreement.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "analysis/evidence/by_series.h"
#include "analysis/statistics/constants.h"

namespace mileage {
namespace {

using Checks = std::vector<const Run*>;
using Counted = std::vector<const Run*>;

constexpr const char* updates_counter = "updates";

bool counts_updates(const Run& run) {
  return run.status != RunStatus::failed && !run.samples_ns.empty() && run.counters.count(updates_counter) > 0;
}

/// Check of a series with unchanged knobs, of the same count and frames as another check.
const Run* plain_check(const Checks& checks, const Run& like) {
  for (const Run* check : checks)
    if (check->count == like.count && check->check_frames == like.check_frames && check->varied == Knobs{})
      return check;
  return nullptr;
}

const Run* earlier_run(const Checks& checks, const Run& check) {
  for (const Run* earlier : checks) {
    if (earlier == &check) return nullptr;
    if (earlier->count == check.count && earlier->check_frames == check.check_frames && earlier->varied == check.varied)
      return earlier;
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

void take_picture(Agreement& agreement, const Outcome& outcome) {
  for (const Quantity& one : outcome.quantities()) {
    if (one.name != picture_pixels && one.name != picture_mean) continue;
    if (!agreement.picture) agreement.picture = PictureError{};
    double& worst = one.name == picture_pixels ? agreement.picture->pixels : agreement.picture->mean;
    worst = std::max(worst, one.value);
  }
}

void take_worst(Agreement& agreement, const Run& check, const std::vector<Disagreement>& differing) {
  for (const Disagreement& one : differing) {
    if (agreement.worst && excess(*agreement.worst) >= excess(one)) continue;
    agreement.worst = one;
    agreement.count = check.count;
    agreement.varied = check.varied;
  }
}

double updates_a_frame(const Run& run) {
  return run.counters.at(updates_counter) / static_cast<double>(run.measured_frames());
}

struct Expected {
  double min, max;
  double share;  ///< Relative tolerance.
};

/// From all runs of the reference. If its updates per entity are the same at every count, they apply to unmeasured
/// counts too; if not, only to its own counts, with a larger tolerance.
std::optional<Expected> updates_expected(const Counted& of_reference, std::int64_t count) {
  std::vector<double> here, everywhere;
  for (const Run* run : of_reference) {
    everywhere.push_back(updates_a_frame(*run) / static_cast<double>(run->count));
    if (run->count == count) here.push_back(updates_a_frame(*run));
  }
  if (everywhere.empty()) return std::nullopt;
  const auto [min, max] = std::minmax_element(everywhere.begin(), everywhere.end());
  const auto entities = static_cast<double>(count);
  if (*max <= *min * (1 + same_updates)) return Expected{*min * entities, *max * entities, same_updates};
  if (here.empty()) return std::nullopt;
  const auto [min_here, max_here] = std::minmax_element(here.begin(), here.end());
  return Expected{*min_here, *max_here, similar_updates};
}

/// A different number of updates is different work, whatever the outcome.
void compare_updates(Agreement& agreement, const Counted& own, const Counted& of_reference) {
  std::map<std::int64_t, std::optional<Expected>> by_count;
  for (const Run* run : own) {
    if (by_count.count(run->count) == 0) by_count[run->count] = updates_expected(of_reference, run->count);
    const auto& expected = by_count[run->count];
    if (!expected) continue;
    const double found = updates_a_frame(*run);
    const double nearest = std::clamp(found, expected->min, expected->max);
    const double tolerance = expected->share * nearest;
    if (std::fabs(found - nearest) > tolerance)
      take_worst(agreement, *run, {{"updates per frame", nearest, found, tolerance}});
  }
}

/// `checks` and `counted` are keyed by warm series.
Agreement agreement_of(const Study& study, const BySeries<const Run*>& checks, const BySeries<const Run*>& counted,
                       const Series& series) {
  Agreement agreement;
  agreement.series = series;
  if (series.is_floor()) return agreement;
  const Scenario& scenario = study.head.scenario;
  const VariantFacts* facts = scenario.find(series.variant);
  const Series reference = reference_series(series, scenario, study.head.plan.series.front().build);
  bool unstable = false;
  bool checked = false;
  const Checks& own = checks.of(series.warm());
  const Checks& of_reference = checks.of(reference.warm());
  for (const Run* made : own) {
    const Run& check = *made;
    take_picture(agreement, check.outcome);
    if (const Run* earlier = earlier_run(own, check)) {
      const auto differing = disagreements(earlier->outcome, check.outcome);
      unstable = unstable || !differing.empty();
      take_worst(agreement, check, differing);
    }
    const Run* correct = plain_check(of_reference, check);
    if (correct == nullptr || (correct->outcome.empty() && check.outcome.empty())) continue;
    checked = true;
    take_worst(agreement, check, disagreements(correct->outcome, check.outcome));
    agreement.largest_error = std::max(agreement.largest_error, relative_error(correct->outcome, check.outcome));
  }
  if (!(series.warm() == reference.warm()) && (facts == nullptr || !facts->may_skip)) {
    compare_updates(agreement, counted.of(series.warm()), counted.of(reference.warm()));
    checked = checked || agreement.worst;
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
  const VariantFacts* facts = scenario.find(reference.variant);
  for (const Knob& knob : scenario.knobs) {
    if (!knob.is_affecting(reference.variant)) continue;
    const auto same = series.knobs.values().find(knob.name);
    reference.knobs.set(knob.name, same == series.knobs.values().end() ? knob.default_value : same->second);
  }
  if (facts != nullptr)
    for (const Knob& knob : facts->knobs) reference.knobs.set(knob.name, knob.default_value);
  return reference;
}

std::vector<Agreement> agreements_of(const Study& study) {
  std::vector<Agreement> all;
  BySeries<const Run*> checks, counted;
  for (const Run& run : study.runs) {
    if (run.status == RunStatus::check) checks.add(run.series, &run);
    if (counts_updates(run)) counted.add(run.series.warm(), &run);
  }
  for (const Series& series : study.head.plan.series) all.push_back(agreement_of(study, checks, counted, series));
  return all;
}

}  // namespace mileage
