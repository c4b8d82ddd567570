#include "measure/runners/run_protocol.h"

#include "study/json_fields.h"
#include "study/study_json.h"

namespace mileage {
namespace {

constexpr const char* version_field = "mileage_run";

Json message(const char* kind) { return {{version_field, protocol_version}, {"kind", kind}}; }

/// Checks the version.
Json open_message(const std::string& line) {
  const Json json = parsed_json(line);
  if (json.is_discarded())
    throw Error(
        {.problem = "not a message of the run protocol", .found = line.substr(0, 60), .accepted = "one line of JSON"});
  const int version = read<int>(json, version_field);
  if (version != protocol_version)
    refuse_field(version_field, "another version of the run protocol", &json[version_field],
                 "version " + std::to_string(protocol_version) + "; build both programs with the same Mileage");
  return json;
}

Json open_answer(const std::string& line, const char* kind) {
  const Json json = open_message(line);
  if (json.contains("refusal")) throw Error({.problem = read<std::string>(json, "refusal")});
  if (read<std::string>(json, "kind") != kind)
    refuse_field("kind", "not the answer that was asked for", &json["kind"], kind);
  return json;
}

}  // namespace

std::string run_request_line(const RunRequest& request) {
  Json json = message("run");
  json["scenario"] = request.scenario;
  json["series"] = to_json(request.series);
  json["count"] = request.count;
  json["seed"] = request.seed;
  json["min_frames"] = request.min_frames;
  json["min_ms"] = request.min_ms;
  json["check_frames"] = request.check_frames;
  if (request.arrive > 0) json["arrive"] = request.arrive;
  if (request.traced) json["traced"] = true;
  return to_line(json);
}

std::string describe_request_line() { return to_line(message("describe")); }

Request parse_request(const std::string& line) {
  const Json json = open_message(line);
  Request request;
  const auto kind = read<std::string>(json, "kind");
  request.describe = kind == "describe";
  if (request.describe) return request;
  if (kind != "run") refuse_field("kind", "not a request", &json["kind"], "run or describe");
  request.run.scenario = read<std::string>(json, "scenario");
  request.run.series = series_from_json(field_of(json, "series"));
  request.run.count = read<std::int64_t>(json, "count");
  request.run.seed = read<std::uint64_t>(json, "seed");
  request.run.min_frames = read<int>(json, "min_frames");
  request.run.min_ms = read<double>(json, "min_ms");
  request.run.check_frames = read_or<int>(json, "check_frames", 0);
  request.run.arrive = read_or<std::int64_t>(json, "arrive", 0);
  request.run.traced = read_or<bool>(json, "traced", false);
  return request;
}

std::string prepare_request_line(const std::string& scenario, double memory_limit_bytes) {
  Json json = message("prepare");
  json["scenario"] = scenario;
  json["memory_limit_bytes"] = memory_limit_bytes;
  return to_line(json);
}

Preparing parse_prepare_request(const std::string& line) {
  const Json json = open_answer(line, "prepare");
  return {read<std::string>(json, "scenario"), read<double>(json, "memory_limit_bytes")};
}

std::string prepare_answer_line() { return to_line(message("prepare")); }

void parse_prepare_answer(const std::string& line) { open_answer(line, "prepare"); }

std::string left_behind_line(int processes) {
  Json json = message("left behind");
  json["processes"] = processes;
  return to_line(json);
}

int parse_left_behind(const std::string& line) { return read<int>(open_answer(line, "left behind"), "processes"); }

std::string run_answer_line(const Run& run) {
  Json json = message("run");
  json["run"] = to_json(run);
  return to_line(json);
}

std::string describe_answer_line(const std::vector<Scenario>& scenarios) {
  Json json = message("describe");
  json["scenarios"] = Json::array();
  for (const Scenario& scenario : scenarios) json["scenarios"].push_back(to_json(scenario));
  return to_line(json);
}

std::string refusal_line(const std::string& reason) {
  Json json = message("refusal");
  json["refusal"] = reason;
  return to_line(json);
}

Run parse_run_answer(const std::string& line) { return run_from_json(field_of(open_answer(line, "run"), "run")); }

std::vector<Scenario> parse_describe_answer(const std::string& line) {
  const Json json = open_answer(line, "describe");
  std::vector<Scenario> scenarios;
  for (const Json& one : read_array(json, "scenarios")) scenarios.push_back(scenario_from_json(one));
  return scenarios;
}

}  // namespace mileage
