#include "analysis/evidence/axis.h"

#include <algorithm>
#include <map>
#include <set>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "analysis/evidence/by_series.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/statistics.h"
#include "types/error.h"
#include "types/notation.h"
#include "types/text.h"

namespace mileage {
namespace {

[[noreturn]] void refuse(const std::string& axis, const char* problem, const std::string& accepted) {
  throw Error({.kind = FaultKind::usage, .field = "axis", .problem = problem, .found = axis, .accepted = accepted});
}

std::vector<Knob> knobs_of(const Scenario& scenario) {
  std::vector<Knob> knobs = scenario.knobs;
  for (const VariantFacts& facts : scenario.variants) knobs.insert(knobs.end(), facts.knobs.begin(), facts.knobs.end());
  return knobs;
}

std::set<std::string> counters_of(const StudyOnAxis& study) {
  std::set<std::string> names;
  for (const JudgedRun& one : study.runs)
    for (const auto& [name, sum] : one.run->counters) names.insert(name);
  return names;
}

Series split_by_count(const Series& series, const std::string& knob, std::int64_t count) {
  Series divided{series.variant, {}, series.cold_bytes, "", series.skipped_phase};
  for (const auto& [name, value] : series.knobs.values())
    if (name != knob) divided.knobs.set(name, value);
  divided.knobs.set(count_axis, static_cast<double>(count));
  return divided;
}

const double* knob_value(const Series& series, const std::string& knob) {
  const auto found = series.knobs.values().find(knob);
  return found == series.knobs.values().end() ? nullptr : std::get_if<double>(&found->second);
}

void leave_out_what_may_not_answer(StudyOnAxis& study, const std::vector<Agreement>& agreements) {
  for (const Agreement& agreement : agreements)
    if (!agreement.may_answer())
      std::erase_if(study.runs, [&](const JudgedRun& one) { return one.series == agreement.series; });
  std::erase_if(study.runs, [](const JudgedRun& one) { return one.run->status == RunStatus::check; });
}

void stand_over_knob(StudyOnAxis& study, const std::string& knob) {
  std::set<double> values;
  std::vector<Series> planned;
  std::erase_if(study.runs, [&](const JudgedRun& one) { return knob_value(one.series, knob) == nullptr; });
  for (JudgedRun& one : study.runs) {
    one.x = *knob_value(one.series, knob);
    values.insert(one.x);
    one.series = split_by_count(one.series, knob, one.run->count);
    if (one.block >= 0 && std::find(planned.begin(), planned.end(), one.series) == planned.end())
      planned.push_back(one.series);
  }
  if (values.size() < 2)
    refuse(knob, "this knob was measured at one value only", "a knob that was measured at several values");
  if (*values.begin() <= 0)
    refuse(knob, "the axis is logarithmic, and this knob was measured at zero", "values above zero");
  std::stable_sort(planned.begin(), planned.end(), [](const Series& a, const Series& b) {
    return *knob_value(a, count_axis) < *knob_value(b, count_axis);
  });
  const auto is_it = [&](const Knob& one) { return one.name == knob; };
  Scenario& scenario = study.head.scenario;
  study.axis.is_choice = std::none_of(scenario.knobs.begin(), scenario.knobs.end(), is_it);
  std::erase_if(scenario.knobs, is_it);
  for (VariantFacts& facts : scenario.variants) std::erase_if(facts.knobs, is_it);
  scenario.knobs.push_back(
      Knob::real(count_axis, "how many are alive", {.default_value = 1, .min = 1, .max = axis_max_count}));
  study.head.plan.series = planned;
}

void stand_over_counter(StudyOnAxis& study, const std::string& counter) {
  const auto per_frame = [&](const Run& run) {
    return run.counters.at(counter) / static_cast<double>(std::max<std::int64_t>(1, run.measured_frames()));
  };
  std::erase_if(study.runs, [&](const JudgedRun& one) {
    const Run& run = *one.run;
    return run.counters.count(counter) == 0 || run.measured_frames() == 0 || per_frame(run) <= 0;
  });
  std::map<Series, std::map<std::int64_t, std::vector<double>>, SeriesOrder> cells;
  for (const JudgedRun& one : study.runs) cells[one.series][one.run->count].push_back(per_frame(*one.run));
  for (JudgedRun& one : study.runs) one.x = median(cells[one.series][one.run->count]);
}

StudyOnAxis over_count(const Study& study) {
  StudyOnAxis on;
  on.axis = {count_axis, true, study.head.scenario.entities, one_entity(study.head.scenario)};
  on.head = study.head;
  on.runs.reserve(study.runs.size());
  for (const Run& run : study.runs) on.runs.push_back({&run, run.series, static_cast<double>(run.count), run.block});
  return on;
}

}  // namespace

std::string place_text(double x, const Axis& axis) {
  return axis.is_whole || x >= 1000 ? count_text(x) : x < 1e-4 ? three_digits(x) : fmt::format("{:.3g}", x);
}

std::string one_entity(const Scenario& scenario) {
  return scenario.entity.empty() ? singular(scenario.entities) : scenario.entity;
}

StudyOnAxis put_on_axis(const Study& study, const std::string& axis, const std::vector<Agreement>& agreements) {
  StudyOnAxis on = over_count(study);
  if (axis == count_axis) return on;
  on.axis = {axis, false, axis, "unit of " + axis};
  leave_out_what_may_not_answer(on, agreements);
  std::vector<std::string> known{count_axis};
  for (const Knob& knob : knobs_of(study.head.scenario)) {
    if (knob.name == axis && !knob.numeric()) refuse(axis, "this knob has no numbers", "a numeric knob or a counter");
    if (knob.name == axis) {
      stand_over_knob(on, axis);
      return on;
    }
    if (knob.numeric()) known.push_back(knob.name);
  }
  const std::set<std::string> counters = counters_of(on);
  if (counters.count(axis) > 0) {
    stand_over_counter(on, axis);
    return on;
  }
  known.insert(known.end(), counters.begin(), counters.end());
  const std::string near = nearest_name(axis, known);
  refuse(axis, "neither a numeric knob nor a counter of this study",
         fmt::format("{}{}", fmt::join(known, ", "), near.empty() ? "" : "; did you mean " + near + "?"));
}

}  // namespace mileage
