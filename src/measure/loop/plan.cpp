#include "measure/loop/plan.h"

#include <algorithm>
#include <cmath>
#include <set>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "analysis/evidence/labels.h"
#include "types/error.h"
#include "types/notation.h"
#include "types/scenario_knobs.h"

namespace mileage {
namespace {

[[noreturn]] void refuse_name(const char* field, const char* problem, const std::string& name,
                              const std::vector<std::string>& known) {
  const std::string near = nearest_name(name, known);
  throw Error({.kind = FaultKind::usage,
               .field = field,
               .problem = problem,
               .found = name,
               .accepted = near.empty() ? fmt::format("{}", fmt::join(known, ", "))
                                        : fmt::format("{}; did you mean {}?", fmt::join(known, ", "), near)});
}

template <class Named>
std::vector<std::string> names_of(const std::vector<Named>& all) {
  std::vector<std::string> names;
  for (const Named& one : all) names.push_back(one.name);
  return names;
}

/// All that can run here; software devices only if there are no others.
std::vector<const VariantFacts*> usual_variants(const Scenario& scenario) {
  std::vector<const VariantFacts*> usual;
  for (const bool in_software : {false, true}) {
    if (!usual.empty()) break;
    for (const VariantFacts& facts : scenario.variants)
      if (facts.unavailable.empty() && facts.software_device == in_software) usual.push_back(&facts);
  }
  return usual;
}

std::vector<const VariantFacts*> named_variants(const Scenario& scenario, const PlanRequest& request) {
  std::vector<const VariantFacts*> chosen;
  for (const std::string& name : request.variants)
    if (scenario.find(name) == nullptr)
      refuse_name("variants", "no such variant in this scenario", name, names_of(scenario.variants));
  for (const VariantFacts& facts : scenario.variants) {
    const bool named =
        std::find(request.variants.begin(), request.variants.end(), facts.name) != request.variants.end();
    if (named && !facts.unavailable.empty())
      throw Error({.kind = FaultKind::usage,
                   .field = "variants",
                   .problem = "this variant cannot run here: " + facts.unavailable,
                   .found = facts.name});
    if (named) chosen.push_back(&facts);
  }
  return chosen;
}

std::vector<const VariantFacts*> chosen_variants(const Scenario& scenario, const PlanRequest& request) {
  const auto chosen = request.variants.empty() ? usual_variants(scenario) : named_variants(scenario, request);
  if (chosen.empty())
    throw Error(
        {.kind = FaultKind::cannot_measure, .field = scenario.name, .problem = "none of its variants can run here"});
  return chosen;
}

std::string range_of(const Knob& knob) {
  if (!knob.numeric()) return fmt::format("{}", fmt::join(knob.choices, ", "));
  return fmt::format("{} from {} to {}{}{}", knob.whole ? "a whole number" : "a number", knob.min, knob.max,
                     knob.unit.empty() ? "" : " ", knob.unit);
}

KnobValue parse_value(const Knob& knob, const std::string& text) {
  const std::string field = "knob " + knob.name;
  const auto refuse = [&]() -> KnobValue {
    throw Error({.kind = FaultKind::usage,
                 .field = field,
                 .problem = "not a value of this knob",
                 .found = text,
                 .accepted = range_of(knob)});
  };
  if (!knob.numeric())
    return std::find(knob.choices.begin(), knob.choices.end(), text) != knob.choices.end() ? KnobValue(text) : refuse();
  const double value = knob.whole ? static_cast<double>(parse_whole(text, field)) : parse_number(text, field);
  return value >= knob.min && value <= knob.max ? KnobValue(value) : refuse();
}

std::vector<KnobValue> values_for(const Knob& knob, const PlanRequest& request) {
  const auto given = request.knobs.find(knob.name);
  if (given == request.knobs.end()) return {knob.default_value};
  std::vector<KnobValue> values;
  for (const std::string& text : given->second) values.push_back(parse_value(knob, text));
  return values;
}

std::vector<Series> series_for(const Scenario& scenario, const VariantFacts& facts, const PlanRequest& request) {
  std::vector<Series> all{{facts.name, {}}};
  for (const Knob& knob : knobs_of(scenario, facts.name)) {
    std::vector<Series> longer;
    for (const Series& series : all)
      for (const KnobValue& value : values_for(knob, request)) {
        Series with = series;
        with.knobs.set(knob.name, value);
        if (std::find(longer.begin(), longer.end(), with) == longer.end()) longer.push_back(std::move(with));
      }
    all = std::move(longer);
  }
  return all;
}

/// And one per phase that the variant can skip.
std::vector<Series> with_floors(const std::vector<Series>& whole, const VariantFacts& facts,
                                const PlanRequest& request) {
  std::vector<Series> all = whole;
  for (const std::string& phase : request.without)
    if (std::find(facts.stubs.begin(), facts.stubs.end(), phase) != facts.stubs.end())
      for (Series floor : whole) {
        floor.skipped_phase = phase;
        all.push_back(std::move(floor));
      }
  return all;
}

void check_without(const std::vector<const VariantFacts*>& variants, const PlanRequest& request) {
  std::vector<std::string> known;
  for (const VariantFacts* facts : variants)
    for (const std::string& phase : facts->stubs)
      if (std::find(known.begin(), known.end(), phase) == known.end()) known.push_back(phase);
  for (const std::string& phase : request.without) {
    if (std::find(known.begin(), known.end(), phase) != known.end()) continue;
    throw Error({.kind = FaultKind::usage,
                 .field = "without",
                 .problem = "none of these variants can leave this phase out",
                 .found = phase,
                 .accepted = known.empty() ? "variants that declare one (VariantFacts::stubs)"
                                           : fmt::format("{}", fmt::join(known, ", "))});
  }
}

void check_knob_names(const Scenario& scenario, const std::vector<const VariantFacts*>& variants,
                      const PlanRequest& request) {
  std::set<std::string> affecting;
  std::set<std::string> known;
  for (const Knob& knob : scenario.knobs) known.insert(knob.name);
  for (const VariantFacts& facts : scenario.variants)
    for (const Knob& knob : facts.knobs) known.insert(knob.name);
  for (const VariantFacts* facts : variants)
    for (const Knob& knob : knobs_of(scenario, facts->name)) affecting.insert(knob.name);
  for (const auto& [name, values] : request.knobs) {
    if (known.count(name) == 0)
      refuse_name(("knob " + name).c_str(), "no such knob in this scenario", name, {known.begin(), known.end()});
    if (affecting.count(name) == 0)
      throw Error({.kind = FaultKind::usage,
                   .field = "knob " + name,
                   .problem = "this knob touches none of the variants chosen",
                   .found = name});
  }
}

/// Suffix of a capacity.
constexpr std::string_view share_of_99 = ":99%";

/// At one count, long runs catch rare frames; this number of blocks suffices.
constexpr double blocks_at_one_count = 30;
/// Of a run's time.
constexpr double share_of_frames = 0.8;
constexpr double longest_run_ms = 1000;

double long_run_ms(const Plan& plan) {
  const double runs = blocks_at_one_count * static_cast<double>(plan.series.size());
  return std::min(longest_run_ms, share_of_frames * plan.time_s * 1000 / runs);
}

void check_goal(const Plan& plan, const Scenario& scenario, const Goal& goal) {
  for (const std::string& name : goal.between) {
    const bool is_measured = std::any_of(plan.series.begin(), plan.series.end(),
                                         [&](const Series& series) { return is_called(series, name); });
    if (is_measured) continue;
    if (scenario.find(name) == nullptr)
      refuse_name("for", "no such variant in this scenario", name, names_of(scenario.variants));
    throw Error({.kind = FaultKind::usage,
                 .field = "for",
                 .problem = "this variant is not among those measured",
                 .found = name});
  }
}

}  // namespace

Goal parse_goal(const std::string& text, const std::string& field) {
  const auto figure_ends = text.find_first_of("@:");
  const std::string figure = text.substr(0, figure_ends);
  const std::string rest = figure_ends == std::string::npos ? "" : text.substr(figure_ends + 1);
  const char sign = figure_ends == std::string::npos ? ' ' : text[figure_ends];
  const bool for_99 = text.size() > share_of_99.size() && text.ends_with(share_of_99);
  if (for_99 && figure == "capacity") {
    Goal goal = parse_goal(text.substr(0, text.size() - share_of_99.size()), field);
    goal.for_99 = true;
    return goal;
  }
  if (figure == "capacity" && sign == ' ') return {figure, 0, {}, false};
  if (figure == "capacity" && sign == '@') return {figure, parse_budget_ms(rest, field), {}, false};
  if (figure == "breakeven" && sign == ':')
    if (auto between = split(rest, ','); between.size() == 2 && between[0] != between[1])
      return {figure, 0, std::move(between), false};
  throw Error({.kind = FaultKind::usage,
               .field = field,
               .problem = "not a figure to measure for",
               .found = text,
               .accepted = "capacity, capacity@60hz, capacity@60hz:99% or breakeven:objects,columns"});
}

const Scenario& scenario_named(const std::string& name, const std::vector<Scenario>& offered) {
  for (const Scenario& scenario : offered)
    if (scenario.name == name) return scenario;
  refuse_name("scenario", "no such scenario", name, names_of(offered));
}

Plan make_plan(const Scenario& scenario, const PlanRequest& request) {
  const std::vector<const VariantFacts*> variants = chosen_variants(scenario, request);
  check_knob_names(scenario, variants, request);
  check_without(variants, request);
  Plan plan;
  for (const VariantFacts* facts : variants)
    for (const double cold_bytes : request.cold_bytes)
      for (Series& series : with_floors(series_for(scenario, *facts, request), *facts, request)) {
        series.cold_bytes = cold_bytes;
        for (const std::string& build : request.builds.empty() ? std::vector<std::string>{""} : request.builds) {
          series.build = build;
          plan.series.push_back(series);
        }
      }
  check_goal(plan, scenario, request.goal);
  plan.counts = request.counts;
  plan.budget_ms = request.budget_ms;
  plan.blocks = request.blocks == 0 && request.time_s == 0 && request.precision == 0 ? usual_blocks : request.blocks;
  plan.precision = request.precision;
  plan.goal = request.goal;
  plan.aim = request.aim;
  plan.listed = request.listed;
  plan.max_count = request.max_count;
  plan.time_s = request.time_s;
  plan.seed = request.seed;
  if (request.min_frames) plan.min_frames = plan.heavy_frames = *request.min_frames;
  plan.arrive = request.arrive;
  plan.trace = request.trace;
  plan.tune = request.tune;
  lengthen_runs_at_one_count(plan, request.min_ms);
  return plan;
}

void lengthen_runs_at_one_count(Plan& plan, double min_ms) {
  plan.min_ms = min_ms;
  if (plan.counts.size() == 1 && !plan.aim && plan.time_s > 0) plan.min_ms = std::max(min_ms, long_run_ms(plan));
}

}  // namespace mileage
