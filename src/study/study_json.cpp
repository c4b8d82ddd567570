#include "study/study_json.h"

#include "study/json_forms.h"
#include "study/run_check.h"

namespace mileage {
namespace {

constexpr const char* format_name = "mileage-study";

void check_format(const Json& json) {
  if (!json.is_object() || !json.contains("format") || json["format"] != format_name)
    throw Error(
        {.problem = "not a study of Mileage", .accepted = "a file written by `mileage measure` (*.study.jsonl)"});
  const int version = read<int>(json, "version");
  if (version < 1 || version > study_format_version)
    refuse_field("version", "written in a version of the format that this program does not know", &json["version"],
                 "version 1 to 3; a newer Mileage reads newer files");
}

/// From three fields that preceded `made_by`; games are recognised by their runs (study_file.h).
MadeBy made_by_of_earlier_writers(const Json& head) {
  if (read_or<bool>(head, "imported", false)) return MadeBy::tables;
  if (read_or<bool>(head["plan"], "by_hand", false)) return MadeBy::person;
  return head.contains("commands") ? MadeBy::commands : MadeBy::program;
}

/// Both are known or none; early writers wrote 0 for unknown.
void settle_load(const Json& json, Run& run) {
  const bool are_both_known = read_if_there(json, "busy_cores") && read_if_there(json, "stolen_share");
  if (!are_both_known || (run.load->busy_cores == 0 && run.load->stolen_share == 0)) run.load.reset();
}

}  // namespace

const char* name_of(RunStatus status) { return name_in(status_names, status); }

const char* name_of(MadeBy made_by) { return name_in(maker_names, made_by); }

Json to_json(const Knobs& knobs) { return JsonForm<Knobs>::json(knobs); }
Json to_json(const Series& series) { return fields_json(series); }
Json to_json(const Outcome& outcome) { return JsonForm<Outcome>::json(outcome); }
Json to_json(const Scenario& scenario) { return fields_json(scenario); }
Json to_json(const Machine& machine) { return fields_json(machine); }
Json to_json(const Run& run) { return fields_json(run); }

Json to_json(const Head& head) {
  Json json;
  json["format"] = format_name;
  json.update(fields_json(head));
  return json;
}

Knobs knobs_from_json(const Json& json) { return JsonForm<Knobs>::value(json, "knobs"); }
Series series_from_json(const Json& json) { return from_fields<Series>(json); }
Outcome outcome_from_json(const Json& json) { return JsonForm<Outcome>::value(json, "outcome"); }
Scenario scenario_from_json(const Json& json) { return from_fields<Scenario>(json); }

Head head_from_json(const Json& json) {
  check_format(json);
  Head head = from_fields<Head>(json);
  if (!json.contains("made_by")) head.made_by = made_by_of_earlier_writers(json);
  if (head.plan_fingerprint.empty()) head.plan_fingerprint = read_or<std::string>(json, "plan_print", "");
  for (const auto& fault :
       {first_fault(head.plan), first_fault(head), first_fault(head.machine), first_fault(head.scenario)})
    if (fault) throw Error(*fault);
  return head;
}

Run run_from_json(const Json& json) {
  Run run = from_fields<Run>(json);
  if (!json.contains("process")) run.process = run.order;
  settle_load(json, run);
  const bool has_a_reason = run.status == RunStatus::failed || run.status == RunStatus::bound;
  if (!has_a_reason) run.failure.clear();
  if (const auto fault = fault_in(run)) throw Error(*fault);
  return run;
}

}  // namespace mileage
