// JSON forms of records.
#pragma once

#include <algorithm>
#include <array>

#include "study/fields.h"
#include "study/study.h"

namespace mileage {

// Described in head_fields.cpp and run_fields.cpp.
template <>
const FieldList& fields_of<Knob>();
template <>
const FieldList& fields_of<Build>();
template <>
const FieldList& fields_of<VariantFacts>();
template <>
const FieldList& fields_of<Scenario>();
template <>
const FieldList& fields_of<Goal>();
template <>
const FieldList& fields_of<Plan>();
template <>
const FieldList& fields_of<Machine>();
template <>
const FieldList& fields_of<Head>();
template <>
const FieldList& fields_of<Series>();
template <>
const FieldList& fields_of<YardstickReading>();
template <>
const FieldList& fields_of<Memory>();
template <>
const FieldList& fields_of<Quantity>();
template <>
const FieldList& fields_of<Expectation>();
template <>
const FieldList& fields_of<Rung>();
template <>
const FieldList& fields_of<WorkByWorker>();
template <>
const FieldList& fields_of<Trace>();
template <>
const FieldList& fields_of<Run>();

template <>
struct JsonForm<KnobValue> {
  static constexpr const char* type = "number or text";
  static Json schema() { return {{"type", {"number", "string"}}}; }
  static Json json(const KnobValue& value) {
    return std::visit([](const auto& held) { return Json(held); }, value);
  }
  static KnobValue value(const Json& json, const std::string& field) {
    if (json.is_string()) return json.get<std::string>();
    return read_value<double>(json, field);
  }
};

template <>
struct JsonForm<Knobs> {
  static constexpr const char* type = "knobs by name";
  static Json schema() { return {{"type", "object"}, {"additionalProperties", JsonForm<KnobValue>::schema()}}; }
  static Json json(const Knobs& knobs) {
    Json json = Json::object();
    for (const auto& [name, value] : knobs.values()) json[name] = JsonForm<KnobValue>::json(value);
    return json;
  }
  static Knobs value(const Json& json, const std::string& field) {
    if (!json.is_object()) refuse_field(field, "the value has the wrong type", &json, "an object");
    Knobs knobs;
    for (const auto& [name, value] : json.items()) knobs.set(name, JsonForm<KnobValue>::value(value, name));
    return knobs;
  }
};

template <class Value, std::size_t Size>
using ValueNames = std::array<std::pair<Value, const char*>, Size>;

inline constexpr ValueNames<RunStatus, 8> status_names{{{RunStatus::kept, "kept"},
                                                        {RunStatus::disturbed, "disturbed"},
                                                        {RunStatus::range_finding, "range_finding"},
                                                        {RunStatus::check, "check"},
                                                        {RunStatus::traced, "traced"},
                                                        {RunStatus::ramp, "ramp"},
                                                        {RunStatus::bound, "bound"},
                                                        {RunStatus::failed, "failed"}}};
inline constexpr ValueNames<MadeBy, 5> maker_names{{{MadeBy::program, "program"},
                                                    {MadeBy::commands, "commands"},
                                                    {MadeBy::game, "game"},
                                                    {MadeBy::person, "person"},
                                                    {MadeBy::tables, "tables"}}};

template <class Value, std::size_t Size>
const char* name_in(const ValueNames<Value, Size>& names, Value value) {
  for (const auto& [known, name] : names)
    if (known == value) return name;
  return "";
}

template <class Value, std::size_t Size>
Json names_schema(const ValueNames<Value, Size>& names, std::vector<std::string> earlier = {}) {
  Json json;
  for (const auto& [value, name] : names) json["enum"].push_back(name);
  for (const std::string& name : earlier) json["enum"].push_back(name);
  return json;
}

/// `what`: "a status", for messages.
template <class Value, std::size_t Size>
Value value_in(const ValueNames<Value, Size>& names, const Json& json, const std::string& field, const char* what) {
  const auto name = read_value<std::string>(json, field);
  std::string accepted;
  for (const auto& [value, known] : names) {
    if (name == known) return value;
    accepted += (accepted.empty() ? "" : known == names.back().second ? " or " : ", ") + std::string(known);
  }
  refuse_field(field, std::string("not ") + what, &json, accepted);
}

template <>
struct JsonForm<RunStatus> {
  static constexpr const char* type = "one of several";
  static Json schema() { return names_schema(status_names, {"repeated", "placing", "climbing"}); }
  static Json json(RunStatus status) { return name_in(status_names, status); }
  static RunStatus value(const Json& json, const std::string& field) {
    // Before version 3.
    if (json == "repeated") return RunStatus::disturbed;
    if (json == "placing") return RunStatus::range_finding;
    if (json == "climbing") return RunStatus::ramp;
    return value_in(status_names, json, field, "a status");
  }
};

template <>
struct JsonForm<MadeBy> {
  static constexpr const char* type = "one of several";
  static Json schema() { return names_schema(maker_names); }
  static Json json(MadeBy made_by) { return name_in(maker_names, made_by); }
  static MadeBy value(const Json& json, const std::string& field) {
    return value_in(maker_names, json, field, "a maker of runs");
  }
};

template <>
struct JsonForm<Series> : RecordJsonForm<Series> {};
template <>
struct JsonForm<Goal> : RecordJsonForm<Goal> {};
template <>
struct JsonForm<Knob> : RecordJsonForm<Knob> {};
template <>
struct JsonForm<Build> : RecordJsonForm<Build> {};
template <>
struct JsonForm<VariantFacts> : RecordJsonForm<VariantFacts> {};
template <>
struct JsonForm<Scenario> : RecordJsonForm<Scenario> {};
template <>
struct JsonForm<Machine> : RecordJsonForm<Machine> {};
template <>
struct JsonForm<Memory> : RecordJsonForm<Memory> {};
/// Version 1 had one time before the frames and one after.
template <>
struct JsonForm<YardstickReading> : RecordJsonForm<YardstickReading> {
  static Json schema() {
    Json earlier = {{"type", "object"}, {"required", {"version", "before", "after"}}};
    return {{"anyOf", {RecordJsonForm<YardstickReading>::schema(), std::move(earlier)}}};
  }
  static YardstickReading value(const Json& json, const std::string& field) {
    if (!json.is_object() || !json.contains("before")) return RecordJsonForm<YardstickReading>::value(json, field);
    const auto before_ns = read<double>(field_of(json, "before"), "arithmetic_ns");
    const auto after_ns = read<double>(field_of(json, "after"), "arithmetic_ns");
    return {read<int>(json, "version"), 2, before_ns, after_ns, std::min(before_ns, after_ns)};
  }
};
template <>
struct JsonForm<Quantity> : RecordJsonForm<Quantity> {};
template <>
struct JsonForm<Expectation> : RecordJsonForm<Expectation> {};
template <>
struct JsonForm<Rung> : RecordJsonForm<Rung> {};
template <>
struct JsonForm<WorkByWorker> : RecordJsonForm<WorkByWorker> {};
template <>
struct JsonForm<Trace> : RecordJsonForm<Trace> {};

template <>
struct JsonForm<Plan> : RecordJsonForm<Plan> {
  static Plan value(const Json& json, const std::string& field) {
    Plan plan = RecordJsonForm<Plan>::value(json, field);
    if (!json.contains("heavy_frames")) plan.heavy_frames = plan.min_frames;
    return plan;
  }
};

template <>
struct JsonForm<Outcome> {
  static constexpr const char* type = "list of quantities";
  static Json schema() { return JsonForm<std::vector<Quantity>>::schema(); }
  static Json json(const Outcome& outcome) { return JsonForm<std::vector<Quantity>>::json(outcome.quantities()); }
  static Outcome value(const Json& json, const std::string& field) {
    Outcome outcome;
    for (const Quantity& one : JsonForm<std::vector<Quantity>>::value(json, field))
      outcome.state(one.name, one.value, one.tolerance, one.scale);
    return outcome;
  }
};

}  // namespace mileage
