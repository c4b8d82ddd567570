#include "measure/runners/program_runner.h"

#include <algorithm>

#include "measure/runners/run_protocol.h"
#include "system/child_process.h"
#include "types/error.h"
#include "types/scenario_check.h"

namespace mileage {
namespace {

constexpr double describe_limit_s = 20;

/// A complete answer counts, however the process ends.
ProgramAnswer ask(const std::filesystem::path& program, const std::string& line, const Limits& limits) {
  Command command;
  command.words = {std::filesystem::absolute(program).string(), run_argument, run_descriptors};
  Streams streams;
  streams.request = line;
  streams.output = false;
  ChildReport report = run_child(command, limits, streams);
  if (report.ending == ChildEnding::stopped) throw Runner::Stopped{};
  if (!report.reply.empty() && report.reply.back() == '\n') {
    report.reply.pop_back();
    return {std::move(report.reply), "", std::max(report.left_behind, report.lingered ? 1 : 0)};
  }
  const std::string words = last_lines(report.errors, 1);
  const char* too_early = report.ending == ChildEnding::exited ? " before its record was complete" : "";
  const char* who = report.ending == ChildEnding::not_started ? "the program " : "the run ";
  return {"", who + worded(report, limits) + too_early + (words.empty() ? "" : "; last output: " + words),
          report.left_behind};
}

/// Names that can be requested.
std::vector<std::string> names_in(const Scenario& scenario) {
  std::vector<std::string> names;
  for (const VariantFacts& facts : scenario.variants) {
    names.push_back(facts.name);
    for (const Knob& knob : facts.knobs) names.push_back(facts.name + " " + knob.name);
  }
  for (const Knob& knob : scenario.knobs) names.push_back(knob.name);
  return names;
}

}  // namespace

std::vector<Scenario> ProgramRunner::describe() {
  const ProgramAnswer answer = ask(program_, describe_request_line(), {.time_s = describe_limit_s});
  const std::string name = program_.filename().string();
  if (!answer.failure.empty())
    throw Error({.kind = FaultKind::cannot_measure,
                 .file = name,
                 .problem = "the program does not tell what it can measure: " + answer.failure,
                 .accepted = "a program whose main calls mileage::serve_runs first"});
  try {
    std::vector<Scenario> scenarios = parse_describe_answer(answer.line);
    for (const Scenario& scenario : scenarios)
      for (const Mistake& mistake : mistakes_in(scenario))
        throw Error({.problem = "its scenario " + scenario.name + " has a mistake: " + mistake.text()});
    for (const Scenario& scenario : scenarios)
      if (scenario.prepares) preparing_.insert(scenario.name);
    return scenarios;
  } catch (const Error& error) {
    throw Error({.kind = FaultKind::cannot_measure, .file = name, .problem = error.what()});
  }
}

Run ProgramRunner::run(const RunRequest& request, double limit_s) {
  const bool prepares = preparing_.count(request.scenario) > 0;
  if (prepares && !prepared_) prepared_ = std::make_unique<PreparedProgram>(program_, limits_);
  const std::string line = run_request_line(request);
  try {
    const ProgramAnswer answer = prepares ? prepared_->ask(request.scenario, line, limit_s)
                                          : ask(program_, line, {limit_s, limits_.memory_bytes, true});
    if (!answer.failure.empty()) return failed_run(request, answer.failure);
    Run run = parse_run_answer(answer.line);
    run.left_behind = answer.left_behind;
    return run;
  } catch (const Error& error) {
    return failed_run(request, error.what());
  }
}

BuildsRunner::BuildsRunner(const std::vector<std::pair<std::string, std::filesystem::path>>& builds,
                           const ProgramLimits& limits) {
  for (const auto& [name, program] : builds) runners_.emplace_back(name, ProgramRunner(program, limits));
}

std::vector<Scenario> BuildsRunner::describe() {
  const std::vector<Scenario> first = runners_.front().second.describe();
  for (std::size_t i = 1; i < runners_.size(); ++i)
    for (const Scenario& scenario : runners_[i].second.describe()) {
      const auto same =
          std::find_if(first.begin(), first.end(), [&](const Scenario& one) { return one.name == scenario.name; });
      if (same == first.end() || names_in(*same) != names_in(scenario))
        throw Error({.kind = FaultKind::cannot_measure,
                     .field = "builds",
                     .problem = "the builds do not offer the same variants and knobs",
                     .found = scenario.name + " of " + runners_[i].first,
                     .accepted = "builds of one program"});
    }
  return first;
}

Run BuildsRunner::run(const RunRequest& request, double limit_s) {
  for (auto& [name, runner] : runners_)
    if (name == request.series.build) return runner.run(request, limit_s);
  return failed_run(request, "there is no build of that name");
}

std::filesystem::path own_program() { return std::filesystem::read_symlink("/proc/self/exe"); }

}  // namespace mileage
