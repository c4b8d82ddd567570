#include <filesystem>
#include <memory>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "measure/machine_facts.h"
#include "measure/plan.h"
#include "study/study_file.h"
#include "tool/answer_options.h"
#include "tool/answer_text.h"
#include "tool/measuring.h"
#include "tool/output.h"
#include "tool/verbs.h"
#include "types/error.h"
#include "types/notation.h"
#include "views/findings_json.h"
#include "views/words.h"

namespace mileage {
namespace {

struct MeasureOptions {
  std::string scenario;
  std::string variants;
  std::string counts = "100..200k";
  int points = 0;
  std::vector<std::string> knobs;
  std::string budget = "60hz";
  std::string time;
  int blocks = 0;
  std::string seed = "1";
  int frames = 20;
  std::string output;
  std::string program;
  std::string memory_limit;
  bool same_process = false;
  bool json = false;
};

/// "scatter=0,1" as name and values.
void read_knob(const std::string& text, Wish& wish) {
  const auto equals = text.find('=');
  if (equals == std::string::npos || equals == 0 || equals + 1 == text.size())
    throw Error({.kind = FaultKind::usage, .field = "--knob", .problem = "not a knob with its values", .found = text,
                 .accepted = "name=value or name=value,value, such as scatter=0,1"});
  wish.knobs[text.substr(0, equals)] = split(text.substr(equals + 1), ',');
}

Wish wish_of(const MeasureOptions& options) {
  Wish wish;
  if (!options.variants.empty()) wish.variants = split(options.variants, ',');
  for (const std::string& knob : options.knobs) read_knob(knob, wish);
  wish.counts = parse_counts(options.counts, options.points, "--counts");
  wish.budget_ms = parse_budget_ms(options.budget, "--budget");
  wish.blocks = options.blocks;
  wish.time_s = options.time.empty() ? 0 : parse_duration_s(options.time, "--time");
  wish.seed = static_cast<std::uint64_t>(parse_whole(options.seed, "--seed"));
  wish.least_frames = options.frames;
  return wish;
}

Json summary_json(const Summary& summary, const std::string& output) {
  Json json = envelope("measure", {});
  json["study"] = std::filesystem::path(output).filename().string();
  json["blocks"] = summary.blocks;
  json["visits_kept"] = summary.kept;
  json["visits_failed"] = summary.failed;
  json["stopped"] = summary.stopped;
  json["elapsed_s"] = summary.elapsed_s;
  return json;
}

std::string summary_text(const Summary& summary, const std::string& output) {
  return fmt::format("{}: {} whole blocks, {} visits kept, {} failed, in {} s{}\n\n", output, summary.blocks, summary.kept,
                     summary.failed, three_digits(summary.elapsed_s), summary.stopped ? "; stopped before the plan was done" : "");
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
  explicit DebuggingRunner(const Catalogue& catalogue) : SameProcessRunner(catalogue, {&clock_, &yardstick_}) {}

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

int measure(const MeasureOptions& options, const Catalogue& catalogue) {
  const Wish wish = wish_of(options);
  const auto runner = runner_for(options, catalogue);
  const std::vector<Scenario> offered = runner->describe();
  if (options.scenario.empty() && offered.size() != 1)
    throw Error({.kind = FaultKind::usage, .field = "--scenario", .problem = "say which scenario", .accepted = "see `mileage list`"});
  const Scenario& scenario = options.scenario.empty() ? offered.front() : scenario_named(options.scenario, offered);
  const std::string output = options.output.empty() ? scenario.name + ".study.jsonl" : options.output;

  const Summary summary = measure_into(output, scenario, make_plan(scenario, wish), *runner);
  if (options.json)
    print(summary_json(summary, output));
  else
    print(summary_text(summary, output));
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
      "  mileage measure --program ./my_game --scenario crowd -o crowd.study.jsonl\n",
      [options, &catalogue] { return measure(*options, catalogue); });
  verb.option("--scenario", options->scenario, "what to measure; see `mileage list`");
  verb.option("--variants", options->variants, "which variants, such as objects,columns (preset: all that can run here)");
  verb.option("--counts", options->counts, "a list 1k,5k,20k or a span 100..200k");
  verb.option("--points", options->points, 2, 100, "counts in a span (preset: about three per decade, at least eight)");
  verb.option("--knob", options->knobs, "a knob's value, or several for a series each: scatter=0,1");
  verb.option("--budget", options->budget, "counts far over it are left out: 60hz or 16.7ms");
  verb.option("--time", options->time, "stop when another block would not fit, such as 30s");
  verb.option("--blocks", options->blocks, 1, 1000, "passes over all cells (preset: 5, or as many as --time allows)");
  verb.option("--seed", options->seed, "of the order of visits and of every world");
  verb.option("--frames", options->frames, 1, 100'000, "measured frames of a visit, at least (preset: 20)");
  verb.option("-o,--output", options->output, "the study file to write, or to go on with (preset: SCENARIO.study.jsonl)");
  verb.option("--program", options->program, "measure this program instead; its main calls mileage::answer_if_asked");
  verb.option("--memory-limit", options->memory_limit, "a visit beyond it is ended, such as 4GB (preset: half of the memory)");
  verb.flag("--same-process", options->same_process, "without a process per visit, for a debugger; a crash ends the study");
  add_json(verb, options->json);
}

}  // namespace mileage
