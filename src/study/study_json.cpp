#include "study/study_json.h"

#include <array>
#include <cmath>
#include <utility>

#include "study/json_fields.h"
#include "study/visit_check.h"

namespace mileage {
namespace {

constexpr const char* format_name = "mileage-study";
constexpr int newest_version = 1;

constexpr std::array<std::pair<VisitStatus, const char*>, 6> status_names{{{VisitStatus::kept, "kept"},
                                                                           {VisitStatus::repeated, "repeated"},
                                                                           {VisitStatus::placing, "placing"},
                                                                           {VisitStatus::check, "check"},
                                                                           {VisitStatus::bound, "bound"},
                                                                           {VisitStatus::failed, "failed"}}};

VisitStatus status_from(const Json& object) {
  const auto name = read<std::string>(object, "status");
  for (const auto& [status, text] : status_names)
    if (name == text) return status;
  refuse_field("status", "not a status", &object["status"], "kept, repeated, placing, check, bound or failed");
}

constexpr std::array<std::pair<MadeBy, const char*>, 5> maker_names{{{MadeBy::program, "program"},
                                                                     {MadeBy::commands, "commands"},
                                                                     {MadeBy::game, "game"},
                                                                     {MadeBy::person, "person"},
                                                                     {MadeBy::tables, "tables"}}};

MadeBy made_by_from(const Json& object) {
  const auto name = read<std::string>(object, "made_by");
  for (const auto& [made_by, text] : maker_names)
    if (name == text) return made_by;
  refuse_field("made_by", "not a maker of visits", &object["made_by"], "program, commands, game, person or tables");
}

/// Before there was this field, three others told it; a running game was told from a program by its visits alone
/// (study_file.h).
MadeBy made_by_of_earlier_writers(const Json& head) {
  if (read_or<bool>(head, "imported", false)) return MadeBy::tables;
  if (read_or<bool>(head["plan"], "by_hand", false)) return MadeBy::person;
  return head.contains("commands") ? MadeBy::commands : MadeBy::program;
}

/// JSON has no NaN; a number that is none travels as null.
Json number_or_null(double number) { return std::isfinite(number) ? Json(number) : Json(nullptr); }
double number_from(const Json& object, const char* field) {
  return field_of(object, field).is_null() ? std::nan("") : read<double>(object, field);
}

Json to_json(const KnobValue& value) {
  return std::visit([](const auto& held) { return Json(held); }, value);
}

KnobValue knob_value_from(const Json& json, const std::string& field) {
  if (json.is_string()) return json.get<std::string>();
  return read_value<double>(json, field);
}

Json to_json(const Knob& knob) {
  Json json{{"name", knob.name}, {"meaning", knob.meaning}, {"unit", knob.unit}, {"preset", to_json(knob.preset)}};
  if (knob.numeric()) {
    json["least"] = knob.least;
    json["most"] = knob.most;
    json["whole"] = knob.whole;
  } else {
    json["choices"] = knob.choices;
  }
  if (knob.divides) json["divides"] = true;
  json["touches"] = knob.touches;
  return json;
}

Knob knob_from_json(const Json& json) {
  Knob knob;
  knob.name = read<std::string>(json, "name");
  knob.meaning = read_or<std::string>(json, "meaning", "");
  knob.unit = read_or<std::string>(json, "unit", "");
  knob.preset = knob_value_from(field_of(json, "preset"), "preset");
  knob.least = read_or<double>(json, "least", 0);
  knob.most = read_or<double>(json, "most", 0);
  knob.whole = read_or<bool>(json, "whole", false);
  knob.divides = read_or<bool>(json, "divides", false);
  if (json.contains("choices")) knob.choices = read_list<std::string>(json, "choices");
  if (json.contains("touches")) knob.touches = read_list<std::string>(json, "touches");
  return knob;
}

Json to_json(const std::vector<Knob>& knobs) {
  Json json = Json::array();
  for (const Knob& knob : knobs) json.push_back(to_json(knob));
  return json;
}

std::vector<Knob> knob_list_from(const Json& object) {
  std::vector<Knob> knobs;
  for (const Json& knob : read_array(object, "knobs")) knobs.push_back(knob_from_json(knob));
  return knobs;
}

Json to_json(const VariantFacts& facts) {
  return {{"name", facts.name}, {"note", facts.note}, {"knobs", to_json(facts.knobs)}, {"unavailable", facts.unavailable},
          {"device", facts.device}, {"software_device", facts.software_device}, {"approximate", facts.approximate}, {"may_skip", facts.may_skip}};
}

VariantFacts variant_facts_from(const Json& json) {
  VariantFacts facts;
  facts.name = read<std::string>(json, "name");
  facts.note = read_or<std::string>(json, "note", "");
  facts.knobs = knob_list_from(json);
  facts.unavailable = read_or<std::string>(json, "unavailable", "");
  facts.device = read_or<std::string>(json, "device", "");
  facts.software_device = read_or<bool>(json, "software_device", false);
  facts.approximate = read_or<bool>(json, "approximate", false);
  facts.may_skip = read_or<bool>(json, "may_skip", false);
  return facts;
}

Json to_json(const Build& build) {
  return {{"compiler", build.compiler}, {"flags", build.flags}, {"known", build.known}, {"optimised", build.optimised}};
}

Build build_from(const Json& json) {
  return {read_or<std::string>(json, "compiler", ""), read_or<std::string>(json, "flags", ""),
          read_or<bool>(json, "known", false), read_or<bool>(json, "optimised", false)};
}

Json to_json(const Goal& goal) {
  return {{"figure", goal.figure}, {"budget_ms", goal.budget_ms}, {"between", goal.between}};
}

Goal goal_from(const Json& json) {
  return {read_or<std::string>(json, "figure", ""), read_or<double>(json, "budget_ms", 0), read_list<std::string>(json, "between")};
}

Json to_json(const Plan& plan) {
  Json series = Json::array();
  for (const Series& one : plan.series) series.push_back(to_json(one));
  Json json{{"series", series},          {"counts", plan.counts},           {"budget_ms", plan.budget_ms},
          {"blocks", plan.blocks},     {"time_s", plan.time_s},           {"seed", plan.seed},
          {"least_frames", plan.least_frames}, {"heavy_frames", plan.heavy_frames}, {"least_ms", plan.least_ms}, {"precision", plan.precision},
          {"goal", to_json(plan.goal)}, {"aim", plan.aim}};
  if (plan.most_count > 0) json["most_count"] = plan.most_count;
  return json;
}

Plan plan_from(const Json& json) {
  Plan plan;
  for (const Json& one : read_array(json, "series")) plan.series.push_back(series_from_json(one));
  plan.counts = read_list<std::int64_t>(json, "counts");
  for (const std::int64_t count : plan.counts)
    if (count < 1) refuse_field("counts", "out of range", &json["counts"], "whole numbers from 1");
  plan.budget_ms = read<double>(json, "budget_ms");
  if (!(plan.budget_ms > 0)) refuse_field("budget_ms", "out of range", &json["budget_ms"], "a time above 0");
  plan.blocks = read_or<int>(json, "blocks", 0);
  plan.time_s = read_or<double>(json, "time_s", 0);
  plan.seed = read_or<std::uint64_t>(json, "seed", 0);
  plan.least_frames = read_or<int>(json, "least_frames", plan.least_frames);
  plan.heavy_frames = read_or<int>(json, "heavy_frames", plan.least_frames);
  plan.least_ms = read_or<double>(json, "least_ms", plan.least_ms);
  plan.precision = read_or<double>(json, "precision", 0);
  if (json.contains("goal")) plan.goal = goal_from(json["goal"]);
  plan.aim = read_or<bool>(json, "aim", false);
  plan.most_count = read_or<std::int64_t>(json, "most_count", 0);
  return plan;
}

Machine machine_from(const Json& json) {
  Machine machine;
  machine.processor = read_or<std::string>(json, "processor", "");
  machine.cores = read_or<int>(json, "cores", 0);
  machine.cache_bytes = read_numbers(json, "cache_bytes");
  machine.memory_bytes = read_or<double>(json, "memory_bytes", 0);
  machine.system = read_or<std::string>(json, "system", "");
  machine.governor = read_or<std::string>(json, "governor", "");
  machine.debugger = read_or<bool>(json, "debugger", false);
  return machine;
}

void check_format(const Json& json) {
  if (!json.is_object() || !json.contains("format") || json["format"] != format_name)
    throw Error({.problem = "not a study of Mileage", .accepted = "a file written by `mileage measure` (*.study.jsonl)"});
  const int version = read<int>(json, "version");
  if (version < 1 || version > newest_version)
    refuse_field("version", "written in a version of the format that this program does not know", &json["version"],
                 "version 1; a newer Mileage reads newer files");
}

Json to_json(const YardstickTimes& times) { return {{"arithmetic_ns", times.arithmetic_ns}, {"memory_ns", times.memory_ns}}; }

YardstickTimes yardstick_times_from(const Json& json) {
  return {read<double>(json, "arithmetic_ns"), read<double>(json, "memory_ns")};
}

/// Writes what is known.
void write_known(Json& json, const char* field, const std::optional<double>& value) {
  if (value) json[field] = *value;
}

/// Writers before this field could be missing wrote 0 for what they did not know.
std::optional<double> read_known(const Json& json, const char* field) {
  const auto value = read_if_there(json, field);
  return value && *value == 0 ? std::nullopt : value;
}

Json to_json(const Memory& memory) {
  Json json = Json::object();
  write_known(json, "empty", memory.empty_bytes);
  write_known(json, "built", memory.built_bytes);
  write_known(json, "settled", memory.settled_bytes);
  write_known(json, "middle", memory.middle_bytes);
  write_known(json, "end", memory.end_bytes);
  write_known(json, "peak", memory.peak_bytes);
  return json;
}

Memory memory_from(const Json& json) {
  return {read_known(json, "empty"),  read_known(json, "built"), read_known(json, "settled"),
          read_known(json, "middle"), read_known(json, "end"),   read_known(json, "peak")};
}

std::optional<MachineLoad> load_from(const Json& json) {
  const auto busy = read_if_there(json, "busy_cores");
  const auto stolen = read_if_there(json, "stolen_share");
  if (!busy || !stolen || (*busy == 0 && *stolen == 0)) return std::nullopt;
  return MachineLoad{*busy, *stolen};
}

void write_frames(const Visit& visit, Json& json) {
  write_known(json, "setup_ms", visit.setup_ms);
  json["frames_per_sample"] = visit.frames_per_sample;
  json["warmup_ns"] = visit.warmup_ns;
  json["samples_ns"] = visit.samples_ns;
  json["phases_ms"] = visit.phases_ms;
  json["counters"] = visit.counters;
  json["alive"] = visit.alive;
  write_known(json, "thread_busy_ms", visit.thread_busy_ms);
  write_known(json, "processor_ms", visit.processor_ms);
  write_known(json, "whole_processor_ms", visit.whole_processor_ms);
  if (visit.series.is_cold()) json["walked_ms"] = visit.walked_ms;
  json["memory_bytes"] = to_json(visit.memory);
  if (visit.yardstick)
    json["yardstick"] = {{"version", visit.yardstick->version},
                         {"before", to_json(visit.yardstick->before)},
                         {"after", to_json(visit.yardstick->after)}};
  if (visit.read_share) json["read_share"] = *visit.read_share;
  json["outcome"] = to_json(visit.outcome);
}

void read_frames(const Json& json, Visit& visit) {
  visit.setup_ms = read_known(json, "setup_ms");
  visit.frames_per_sample = read<int>(json, "frames_per_sample");
  visit.warmup_ns = read_list<std::int64_t>(json, "warmup_ns");
  visit.samples_ns = read_list<std::int64_t>(json, "samples_ns");
  visit.phases_ms = read_numbers(json, "phases_ms");
  visit.counters = read_numbers(json, "counters");
  visit.alive = read<std::int64_t>(json, "alive");
  visit.thread_busy_ms = read_known(json, "thread_busy_ms");
  visit.processor_ms = read_known(json, "processor_ms");
  visit.whole_processor_ms = read_if_there(json, "whole_processor_ms");
  visit.walked_ms = read_or<double>(json, "walked_ms", 0);
  if (json.contains("memory_bytes")) visit.memory = memory_from(json["memory_bytes"]);
  if (json.contains("yardstick")) {
    const Json& yardstick = json["yardstick"];
    visit.yardstick = {read<int>(yardstick, "version"), yardstick_times_from(field_of(yardstick, "before")),
                       yardstick_times_from(field_of(yardstick, "after"))};
  }
  if (json.contains("read_share")) visit.read_share = read<double>(json, "read_share");
  visit.outcome = outcome_from_json(field_of(json, "outcome"));
}

}  // namespace

const char* name_of(MadeBy made_by) {
  for (const auto& [known, text] : maker_names)
    if (known == made_by) return text;
  return "";
}

const char* name_of(VisitStatus status) {
  for (const auto& [known, text] : status_names)
    if (known == status) return text;
  return "";
}

Json to_json(const Knobs& knobs) {
  Json json = Json::object();
  for (const auto& [name, value] : knobs.values()) json[name] = to_json(value);
  return json;
}

Knobs knobs_from_json(const Json& json) {
  if (!json.is_object()) refuse_field("knobs", "the value has the wrong type", &json, "an object");
  Knobs knobs;
  for (const auto& [name, value] : json.items()) knobs.set(name, knob_value_from(value, name));
  return knobs;
}

Json to_json(const Series& series) {
  Json json{{"variant", series.variant}, {"knobs", to_json(series.knobs)}};
  if (series.is_cold()) json["cold_bytes"] = series.cold_bytes;
  if (!series.build.empty()) json["build"] = series.build;
  return json;
}

Series series_from_json(const Json& json) {
  return {read<std::string>(json, "variant"), knobs_from_json(field_of(json, "knobs")), read_or<double>(json, "cold_bytes", 0),
          read_or<std::string>(json, "build", "")};
}

Json to_json(const Outcome& outcome) {
  Json json = Json::array();
  for (const Quantity& one : outcome.quantities())
    json.push_back({{"name", one.name}, {"value", number_or_null(one.value)}, {"tolerance", one.tolerance}, {"scale", one.scale}});
  return json;
}

Outcome outcome_from_json(const Json& json) {
  if (!json.is_array()) refuse_field("outcome", "the value has the wrong type", &json, "a list");
  Outcome outcome;
  for (const Json& one : json)
    outcome.state(read<std::string>(one, "name"), number_from(one, "value"), read<double>(one, "tolerance"),
                  read_or<double>(one, "scale", 0));
  return outcome;
}

Json to_json(const Scenario& scenario) {
  Json variants = Json::array();
  for (const VariantFacts& facts : scenario.variants) variants.push_back(to_json(facts));
  Json json{{"name", scenario.name},
            {"note", scenario.note},
            {"entities", scenario.entities},
            {"knobs", to_json(scenario.knobs)},
            {"step_s", scenario.step_s},
            {"reference", scenario.reference},
            {"build", to_json(scenario.build)},
            {"variants", variants}};
  if (!scenario.entity.empty()) json["entity"] = scenario.entity;
  return json;
}

Scenario scenario_from_json(const Json& json) {
  Scenario scenario;
  scenario.name = read<std::string>(json, "name");
  scenario.note = read_or<std::string>(json, "note", "");
  scenario.entities = read_or<std::string>(json, "entities", scenario.entities);
  scenario.entity = read_or<std::string>(json, "entity", "");
  scenario.knobs = knob_list_from(json);
  scenario.step_s = read_or<double>(json, "step_s", scenario.step_s);
  scenario.reference = read_or<std::string>(json, "reference", "");
  scenario.build = build_from(field_of(json, "build"));
  for (const Json& variant : read_array(json, "variants")) scenario.variants.push_back(variant_facts_from(variant));
  return scenario;
}

Json to_json(const Machine& machine) {
  return {{"processor", machine.processor},
          {"cores", machine.cores},
          {"cache_bytes", machine.cache_bytes},
          {"memory_bytes", machine.memory_bytes},
          {"system", machine.system},
          {"governor", machine.governor},
          {"debugger", machine.debugger}};
}

Json to_json(const Head& head) {
  Json json{{"format", format_name},          {"version", head.version},
            {"program", head.program},        {"recorded", head.recorded},    {"made_by", name_of(head.made_by)},
            {"scenario", to_json(head.scenario)}, {"plan", to_json(head.plan)},
            {"machine", to_json(head.machine)}};
  if (!head.notes.empty()) json["notes"] = head.notes;
  if (!head.commands.empty()) json["commands"] = head.commands;
  if (!head.plan_print.empty()) json["plan_print"] = head.plan_print;
  if (!head.plan_file.empty()) json["plan_file"] = head.plan_file;
  if (head.remembered_yardstick_ns) json["remembered_yardstick_ns"] = *head.remembered_yardstick_ns;
  return json;
}

Head head_from_json(const Json& json) {
  check_format(json);
  Head head;
  head.version = read<int>(json, "version");
  head.program = read_or<std::string>(json, "program", "");
  head.recorded = read_or<std::string>(json, "recorded", "");
  head.scenario = scenario_from_json(field_of(json, "scenario"));
  head.plan = plan_from(field_of(json, "plan"));
  head.machine = machine_from(field_of(json, "machine"));
  if (json.contains("notes")) head.notes = read_list<std::string>(json, "notes");
  if (json.contains("commands")) head.commands = read_list<std::string>(json, "commands");
  head.made_by = json.contains("made_by") ? made_by_from(json) : made_by_of_earlier_writers(json);
  head.plan_print = read_or<std::string>(json, "plan_print", "");
  head.plan_file = read_or<std::string>(json, "plan_file", "");
  if (json.contains("remembered_yardstick_ns")) head.remembered_yardstick_ns = read<double>(json, "remembered_yardstick_ns");
  return head;
}

Json to_json(const Visit& visit) {
  Json json{{"series", to_json(visit.series)},
            {"count", visit.count},
            {"block", visit.block},
            {"order", visit.order},
            {"process", visit.process},
            {"status", name_of(visit.status)},
            {"seed", visit.seed},
            {"took_s", visit.took_s},
            {"waited_s", visit.waited_s}};
  if (visit.load) json["busy_cores"] = visit.load->busy_cores;
  if (visit.load) json["stolen_share"] = visit.load->stolen_share;
  if (visit.left_behind > 0) json["left_behind"] = visit.left_behind;
  if (visit.status == VisitStatus::check) json["varied"] = to_json(visit.varied);
  if (!visit.failure.empty()) json["failure"] = visit.failure;
  if (visit.status != VisitStatus::failed) write_frames(visit, json);
  return json;
}

Visit visit_from_json(const Json& json) {
  Visit visit;
  visit.series = series_from_json(field_of(json, "series"));
  visit.count = read<std::int64_t>(json, "count");
  visit.block = read<int>(json, "block");
  visit.order = read<int>(json, "order");
  visit.process = read_or<std::int64_t>(json, "process", visit.order);
  visit.status = status_from(json);
  visit.seed = read_or<std::uint64_t>(json, "seed", 0);
  visit.took_s = read_or<double>(json, "took_s", 0);
  visit.waited_s = read_or<double>(json, "waited_s", 0);
  visit.load = load_from(json);
  visit.left_behind = read_or<int>(json, "left_behind", 0);
  if (json.contains("varied")) visit.varied = knobs_from_json(json["varied"]);
  const bool has_reason = visit.status == VisitStatus::failed || visit.status == VisitStatus::bound;
  if (has_reason) visit.failure = read<std::string>(json, "failure");
  if (visit.status != VisitStatus::failed) read_frames(json, visit);
  if (const auto fault = fault_in(visit)) throw Error(*fault);
  return visit;
}

}  // namespace mileage
