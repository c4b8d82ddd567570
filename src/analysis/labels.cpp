#include "analysis/labels.h"

#include <algorithm>
#include <map>
#include <set>

#include <fmt/format.h>

namespace mileage {
namespace {

const KnobValue* value_of(const Series& series, const std::string& knob) {
  const auto found = series.knobs.values().find(knob);
  return found == series.knobs.values().end() ? nullptr : &found->second;
}

bool differs_within_variant(const std::string& knob, const Series& series, const std::vector<Series>& all) {
  const KnobValue* own = value_of(series, knob);
  return std::any_of(all.begin(), all.end(), [&](const Series& other) {
    const KnobValue* theirs = value_of(other, knob);
    return other.variant == series.variant && theirs != nullptr && *theirs != *own;
  });
}

void append(std::string& text, const std::string& knob, const KnobValue& value) {
  if (!text.empty()) text += ' ';
  text += fmt::format("{}={}", knob, text_of(value));
}

/// One value for each knob of the scenario in which the series differ.
using Conditions = std::map<std::string, KnobValue>;

bool fits(const Series& series, const Conditions& conditions) {
  return std::all_of(conditions.begin(), conditions.end(), [&](const auto& condition) {
    const KnobValue* value = value_of(series, condition.first);
    return value == nullptr || *value == condition.second;
  });
}

std::vector<Conditions> conditions_of(const std::vector<Series>& series, const Scenario& scenario) {
  std::vector<Conditions> all{{}};
  for (const Knob& knob : scenario.knobs) {
    std::set<KnobValue> values;
    for (const Series& one : series)
      if (const KnobValue* value = value_of(one, knob.name)) values.insert(*value);
    if (values.size() < 2) continue;
    std::vector<Conditions> longer;
    for (const KnobValue& value : values)
      for (Conditions conditions : all) {
        conditions[knob.name] = value;
        longer.push_back(std::move(conditions));
      }
    all = std::move(longer);
  }
  return all;
}

}  // namespace

std::vector<Series> series_of(const Study& study) {
  std::vector<Series> all = study.head.plan.series;
  for (const Visit& visit : study.visits)
    if (visit.counts_as_evidence() && std::find(all.begin(), all.end(), visit.series) == all.end()) all.push_back(visit.series);
  return all;
}

std::string text_of(const KnobValue& value) {
  return std::visit([](const auto& held) { return fmt::format("{}", held); }, value);
}

std::string knobs_text(const Knobs& knobs) {
  std::string text;
  for (const auto& [name, value] : knobs.values()) text += fmt::format(" {}={}", name, text_of(value));
  return text;
}

std::string label_of(const Series& series, const std::vector<Series>& all) {
  std::string knobs;
  for (const auto& [name, value] : series.knobs.values())
    if (differs_within_variant(name, series, all)) append(knobs, name, value);
  return knobs.empty() ? series.variant : series.variant + " " + knobs;
}

bool same_conditions(const Series& a, const Series& b, const Scenario& scenario) {
  return std::all_of(scenario.knobs.begin(), scenario.knobs.end(), [&](const Knob& knob) {
    const KnobValue* in_a = value_of(a, knob.name);
    const KnobValue* in_b = value_of(b, knob.name);
    return in_a == nullptr || in_b == nullptr || *in_a == *in_b;
  });
}

std::vector<Group> groups_of(const std::vector<Series>& series, const Scenario& scenario) {
  std::vector<Group> groups;
  for (const Conditions& conditions : conditions_of(series, scenario)) {
    Group group;
    for (const auto& [knob, value] : conditions) append(group.conditions, knob, value);
    for (std::size_t i = 0; i < series.size(); ++i)
      if (fits(series[i], conditions)) group.members.push_back(i);
    if (!group.members.empty()) groups.push_back(std::move(group));
  }
  return groups;
}

}  // namespace mileage
