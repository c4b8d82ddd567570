#include <filesystem>
#include <memory>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "measure/machine_facts.h"
#include "study/study_file.h"
#include "tool/answer_options.h"
#include "tool/answer_text.h"
#include "tool/dry_run.h"
#include "tool/measure_options.h"
#include "tool/measuring.h"
#include "tool/output.h"
#include "tool/plan_file.h"
#include "tool/verbs.h"
#include "types/error.h"
#include "tool/exit_codes.h"
#include "types/notation.h"
#include "views/findings_json.h"
#include "views/words.h"

namespace mileage {
namespace {

Json summary_json(const Summary& summary, const std::string& output) {
  Json json = envelope("measure", {});
  json["study"] = std::filesystem::path(output).filename().string();
  json["blocks"] = summary.blocks;
  json["visits_kept"] = summary.kept;
  json["visits_failed"] = summary.failed;
  json["stopped"] = summary.stopped;
  json["elapsed_s"] = summary.elapsed_s;
  json["reached"] = summary.reached ? Json(*summary.reached) : Json(nullptr);
  json["blocks_lacking"] = summary.blocks_lacking;
  return json;
}

std::string reached_text(const Summary& summary, const Plan& plan) {
  const std::string wanted = fmt::format("{} was wanted", precision_text(plan.precision));
  if (!summary.reached) return wanted + "; no interval to hold against it";
  if (*summary.reached <= plan.precision) return fmt::format("{} reached, {}", precision_text(*summary.reached), wanted);
  return fmt::format("{} reached, {}: about {} more block{} would do", precision_text(*summary.reached), wanted, summary.blocks_lacking,
                     summary.blocks_lacking == 1 ? "" : "s");
}

std::string summary_text(const Summary& summary, const Plan& plan, const std::string& output) {
  std::string text = fmt::format("{}: {} whole blocks, {} visits kept, {} failed, in {} s{}\n", output, summary.blocks, summary.kept,
                                 summary.failed, three_digits(summary.elapsed_s), summary.stopped ? "; stopped before the plan was done" : "");
  if (plan.precision > 0) text += reached_text(summary, plan) + "\n";
  return text + "\n";
}

void say_what_is_known(const std::string& output) {
  const Findings findings = analyse(read_study(output), {});
  print(preamble(findings) + capacity_answer(findings) + evidence_footer(findings));
  print(fmt::format("\nGo on with: mileage curve|breakeven|report {}\n", output));
}

/// Half of the machine's memory unless told otherwise: a variant that allocates without end must not take the machine along.
double memory_limit_of(const MeasureOptions& options) {
  return options.memory_limit.empty() ? machine_facts().memory_bytes / 2 : parse_bytes(options.memory_limit, "--memory-limit");
}

/// Visits in this process, with what they need.
class DebuggingRunner : public SameProcessRunner {
 public:
  explicit DebuggingRunner(const Catalogue& catalogue) : SameProcessRunner(catalogue, {&clock_, &yardstick_, read_load}) {}

 private:
  SystemClock clock_;
  MachineYardstick yardstick_{clock_};
};

std::unique_ptr<Runner> runner_for(const MeasureOptions& options, const Catalogue& catalogue) {
  if (options.same_process && !options.program.empty())
    throw Error({.kind = FaultKind::usage, .field = "--same-process", .problem = "does not go with --program"});
  if (options.same_process) return std::make_unique<DebuggingRunner>(catalogue);
  const std::filesystem::path program = options.program.empty() ? own_program() : std::filesystem::path(options.program);
  return std::make_unique<ProgramRunner>(program, memory_limit_of(options));
}

const Scenario& scenario_asked_for(const MeasureOptions& options, const std::vector<Scenario>& offered) {
  if (!options.scenario.empty()) return scenario_named(options.scenario, offered);
  if (offered.size() == 1) return offered.front();
  throw Error({.kind = FaultKind::usage, .field = "--scenario", .problem = "say which scenario", .accepted = "see `mileage list`"});
}

int measure(MeasureOptions options, const Catalogue& catalogue) {
  if (!options.plan_file.empty()) read_plan_file(options.plan_file, options);
  const Wish wish = wish_of(options);
  const auto runner = runner_for(options, catalogue);
  const std::vector<Scenario> offered = runner->describe();
  const Scenario& scenario = scenario_asked_for(options, offered);
  const std::string output = options.output.empty() ? scenario.name + ".study.jsonl" : options.output;
  const Plan plan = make_plan(scenario, wish);
  if (options.dry_run) {
    show_dry_run(scenario, plan, output, options.json);
    return exit_answered;
  }

  const Summary summary = measure_into(output, scenario, plan, *runner);
  if (options.json)
    print(summary_json(summary, output));
  else
    print(summary_text(summary, plan, output));
  if (!options.json && summary.kept > 0) say_what_is_known(output);
  if (summary.kept == 0) complain("nothing could be measured; the reasons are in " + output);
  return exit_code_of(summary);
}

}  // namespace

void add_measure_verb(CommandLine& line, const Catalogue& catalogue) {
  auto options = std::make_shared<MeasureOptions>();
  Verb verb = line.add_verb(
      "measure", "Run a study: visits in shuffled blocks, written to a file as they are made",
      "  mileage measure --scenario drift --variants objects,columns --counts 100..200k --time 30s -o night.study.jsonl\n"
      "  mileage measure --scenario drift --knob scatter=0,1 --knob workers=1,2 --blocks 8 -o workers.study.jsonl\n"
      "  mileage measure --scenario drift --precision 3% --for breakeven:objects,columns -o pair.study.jsonl\n"
      "  mileage measure night.toml --dry-run\n"
      "  mileage measure --program ./my_game --scenario crowd -o crowd.study.jsonl\n",
      [options, &catalogue] { return measure(*options, catalogue); });
  add_measure_options(verb, *options);
  add_json(verb, options->json);
}

}  // namespace mileage
