#include "analysis/axis.h"

#include <algorithm>
#include <map>
#include <set>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "analysis/agreement.h"
#include "analysis/statistics.h"
#include "types/error.h"
#include "types/notation.h"

namespace mileage {
namespace {

constexpr double most_count = 1e9;

[[noreturn]] void refuse(const std::string& axis, const char* problem, const std::string& accepted) {
  throw Error({.kind = FaultKind::usage, .field = "over", .problem = problem, .found = axis, .accepted = accepted});
}

std::vector<Knob> knobs_of(const Scenario& scenario) {
  std::vector<Knob> knobs = scenario.knobs;
  for (const VariantFacts& facts : scenario.variants) knobs.insert(knobs.end(), facts.knobs.begin(), facts.knobs.end());
  return knobs;
}

std::set<std::string> counters_of(const Study& study) {
  std::set<std::string> names;
  for (const Visit& visit : study.visits)
    for (const auto& [name, sum] : visit.counters) names.insert(name);
  return names;
}

/// A series as it is called when the knob stands on the axis.
Series divided_by_count(const Series& series, const std::string& knob, std::int64_t count) {
  Series divided{series.variant, {}, series.cold_bytes};
  for (const auto& [name, value] : series.knobs.values())
    if (name != knob) divided.knobs.set(name, value);
  divided.knobs.set(count_axis, static_cast<double>(count));
  return divided;
}

const double* knob_value(const Series& series, const std::string& knob) {
  const auto found = series.knobs.values().find(knob);
  return found == series.knobs.values().end() ? nullptr : std::get_if<double>(&found->second);
}

/// Outcomes were compared by series as they were measured: what differs goes before series are divided otherwise, and so do
/// the checks.
void keep_what_may_answer(Study& study) {
  for (const Agreement& agreement : agreements_of(study))
    if (!agreement.may_answer()) std::erase_if(study.visits, [&](const Visit& visit) { return visit.series == agreement.series; });
  std::erase_if(study.visits, [](const Visit& visit) { return visit.status == VisitStatus::check; });
}

void stand_over_knob(Study& study, const std::string& knob) {
  std::set<double> values;
  std::vector<Series> planned;
  std::erase_if(study.visits, [&](const Visit& visit) { return knob_value(visit.series, knob) == nullptr; });
  for (Visit& visit : study.visits) {
    visit.on_axis = *knob_value(visit.series, knob);
    values.insert(*visit.on_axis);
    visit.series = divided_by_count(visit.series, knob, visit.count);
    if (visit.block >= 0 && std::find(planned.begin(), planned.end(), visit.series) == planned.end()) planned.push_back(visit.series);
  }
  if (values.size() < 2) refuse(knob, "the study holds this knob at fewer than two values", "a knob that was measured at several values");
  if (*values.begin() <= 0) refuse(knob, "the axis is logarithmic, and this knob was measured at zero", "values above zero");
  std::stable_sort(planned.begin(), planned.end(), [](const Series& a, const Series& b) {
    return *knob_value(a, count_axis) < *knob_value(b, count_axis);
  });
  Scenario& scenario = study.head.scenario;
  std::erase_if(scenario.knobs, [&](const Knob& one) { return one.name == knob; });
  for (VariantFacts& facts : scenario.variants) std::erase_if(facts.knobs, [&](const Knob& one) { return one.name == knob; });
  scenario.knobs.push_back(Knob::real(count_axis, "how many are alive", 1, 1, most_count));
  study.head.plan.series = planned;
}

void stand_over_counter(Study& study, const std::string& counter) {
  const auto per_frame = [&](const Visit& visit) {
    return visit.counters.at(counter) / static_cast<double>(std::max<std::int64_t>(1, visit.measured_frames()));
  };
  std::erase_if(study.visits, [&](const Visit& visit) {
    return visit.counters.count(counter) == 0 || visit.measured_frames() == 0 || per_frame(visit) <= 0;
  });
  std::vector<std::pair<Series, std::map<std::int64_t, std::vector<double>>>> cells;
  const auto cells_of = [&](const Series& series) -> auto& {
    const auto found = std::find_if(cells.begin(), cells.end(), [&](const auto& one) { return one.first == series; });
    return found != cells.end() ? found->second : cells.emplace_back(series, std::map<std::int64_t, std::vector<double>>{}).second;
  };
  for (const Visit& visit : study.visits) cells_of(visit.series)[visit.count].push_back(per_frame(visit));
  for (Visit& visit : study.visits) visit.on_axis = median(cells_of(visit.series)[visit.count]);
}

}  // namespace

Study along(Study study, const std::string& axis) {
  if (axis == count_axis) return study;
  keep_what_may_answer(study);
  std::vector<std::string> known{count_axis};
  for (const Knob& knob : knobs_of(study.head.scenario)) {
    if (knob.name == axis && !knob.numeric()) refuse(axis, "this knob has no numbers", "a numeric knob or a counter");
    if (knob.name == axis) {
      stand_over_knob(study, axis);
      return study;
    }
    if (knob.numeric()) known.push_back(knob.name);
  }
  const std::set<std::string> counters = counters_of(study);
  if (counters.count(axis) > 0) {
    stand_over_counter(study, axis);
    return study;
  }
  known.insert(known.end(), counters.begin(), counters.end());
  const std::string near = nearest_name(axis, known);
  refuse(axis, "neither a numeric knob nor a counter of this study",
         fmt::format("{}{}", fmt::join(known, ", "), near.empty() ? "" : "; did you mean " + near + "?"));
}

}  // namespace mileage
