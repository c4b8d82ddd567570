#include "analysis/evidence/labels.h"

#include <algorithm>
#include <map>
#include <optional>
#include <set>

#include <fmt/format.h>

#include "types/notation.h"

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

std::string cold_text(const Series& series) { return "cold " + bytes_text(series.cold_bytes); }

bool fits(const Series& series, const Conditions& conditions) {
  if (conditions.cold_bytes && series.cold_bytes != *conditions.cold_bytes) return false;
  return std::all_of(conditions.knobs.begin(), conditions.knobs.end(), [&](const auto& condition) {
    const KnobValue* value = value_of(series, condition.first);
    return value == nullptr || *value == condition.second;
  });
}

std::vector<Conditions> conditions_of(const std::vector<Series>& series, const Scenario& scenario) {
  std::vector<Conditions> all;
  std::set<double> cold;
  for (const Series& one : series) cold.insert(one.cold_bytes);
  for (const double bytes : cold) all.push_back({{}, cold.size() > 1 ? std::optional(bytes) : std::nullopt});
  for (const Knob& knob : scenario.knobs) {
    std::set<KnobValue> values;
    for (const Series& one : series)
      if (const KnobValue* value = value_of(one, knob.name)) values.insert(*value);
    if (values.size() < 2) continue;
    std::vector<Conditions> longer;
    for (const KnobValue& value : values)
      for (Conditions conditions : all) {
        conditions.knobs[knob.name] = value;
        longer.push_back(std::move(conditions));
      }
    all = std::move(longer);
  }
  return all;
}

}  // namespace

std::string label_of(const Series& series, const std::vector<Series>& all) {
  std::string knobs;
  for (const auto& [name, value] : series.knobs.values())
    if (differs_within_variant(name, series, all)) append(knobs, name, value);
  if (series.is_cold()) knobs += (knobs.empty() ? "" : " ") + cold_text(series);
  if (series.is_floor())
    knobs += (knobs.empty() ? "" : " ") + fmt::format("without {} (a floor)", series.skipped_phase);
  const std::string name = series.build.empty() ? series.variant : series.build + "/" + series.variant;
  return knobs.empty() ? name : name + " " + knobs;
}

bool is_called(const Series& series, const std::string& name) {
  return name == series.variant ||
         (!series.build.empty() && (name == series.build || name == series.build + "/" + series.variant));
}

std::string Conditions::text() const {
  std::string text;
  const auto add = [&](const std::string& one) { text += (text.empty() ? "" : ", ") + one; };
  for (const auto& [knob, value] : knobs) add(knob + " " + text_of(value));
  if (cold_bytes) add(*cold_bytes > 0 ? fmt::format("caches cold ({})", bytes_text(*cold_bytes)) : "caches warm");
  return text;
}

bool same_conditions(const Series& a, const Series& b, const Scenario& scenario) {
  return a.cold_bytes == b.cold_bytes &&
         std::all_of(scenario.knobs.begin(), scenario.knobs.end(), [&](const Knob& knob) {
           const KnobValue* in_a = value_of(a, knob.name);
           const KnobValue* in_b = value_of(b, knob.name);
           return in_a == nullptr || in_b == nullptr || *in_a == *in_b;
         });
}

namespace {

bool is_part_of_another(const Group& group, const std::vector<Group>& all) {
  return std::any_of(all.begin(), all.end(), [&](const Group& other) {
    return other.members.size() > group.members.size() &&
           std::includes(other.members.begin(), other.members.end(), group.members.begin(), group.members.end());
  });
}

}  // namespace

std::vector<Group> groups_of(const std::vector<Series>& series, const Scenario& scenario) {
  std::vector<Group> groups;
  for (const Conditions& conditions : conditions_of(series, scenario)) {
    Group group{conditions, conditions.text(), {}, {}};
    for (std::size_t i = 0; i < series.size(); ++i)
      if (fits(series[i], conditions)) group.members.push_back(i);
    if (group.members.empty()) continue;
    groups.push_back(std::move(group));
  }
  std::vector<Group> with_a_choice;
  for (const Group& group : groups)
    if (!is_part_of_another(group, groups)) with_a_choice.push_back(group);
  return with_a_choice;
}

}  // namespace mileage
