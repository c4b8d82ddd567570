#include "tool/measure_request.h"

#include <unistd.h>

#include <algorithm>
#include <filesystem>
#include <utility>

#include <fmt/format.h>

#include "measure/machine/machine_facts.h"
#include "measure/runners/command_runner.h"
#include "measure/runners/hand_runner.h"
#include "measure/runners/program_runner.h"
#include "measure/runners/same_process_runner.h"
#include "system/stop_signals.h"
#include "tool/output.h"
#include "tool/plan_file.h"
#include "types/error.h"
#include "types/notation.h"

namespace mileage {
namespace {

/// Default: half of the machine's memory.
double memory_limit_of(const MeasureOptions& options) {
  return options.memory_limit.empty() ? machine_facts().memory_bytes / 2
                                      : parse_bytes(options.memory_limit, "memory-limit");
}

ProgramLimits program_limits_of(const MeasureOptions& options) {
  ProgramLimits limits{.memory_bytes = memory_limit_of(options)};
  if (!options.time.empty()) limits.preparing_s = std::min(limits.preparing_s, parse_duration_s(options.time, "time"));
  return limits;
}

/// Owns its instruments.
template <class Made>
class WithInstruments : private OwnInstruments, public Made {
 public:
  explicit WithInstruments(const Catalogue& catalogue) : Made(catalogue, instruments) {}
  WithInstruments(Scenario scenario, CommandPlan plan, double memory_limit_bytes)
      : Made(std::move(scenario), std::move(plan), instruments, memory_limit_bytes) {}
};

/// Recordings appear in the current folder.
class PersonRunner : private OwnInstruments, public HandRunner {
 public:
  explicit PersonRunner(const Scenario& scenario)
      : HandRunner(scenario, std::filesystem::current_path(),
                   {[](const std::string& line) { print((::isatty(STDERR_FILENO) == 1 ? "\n" : "") + line + "\n"); },
                    is_stop_asked},
                   clock) {}
};

/// Commands need {arrive} for arrivals.
void check_arrivals(const MeasureOptions& options) {
  for (const auto& [variant, words] : options.own_commands->plan.words)
    if (std::none_of(words.begin(), words.end(),
                     [](const std::string& word) { return word.find("{arrive}") != std::string::npos; }))
      throw Error({.kind = FaultKind::usage,
                   .field = "arrive",
                   .problem = "the command of a variant lacks {arrive}",
                   .found = variant,
                   .accepted = "{arrive} among its arguments"});
}

void check_who_measures(const MeasureOptions& options) {
  const auto refuse = [](const char* option, const char* problem) {
    throw Error({.kind = FaultKind::usage, .field = option, .problem = problem});
  };
  if (options.same_process && !options.program.empty()) refuse("same-process", "does not go with --program");
  if (options.same_process && !options.builds.empty()) refuse("same-process", "does not go with --builds");
  if (!options.program.empty() && !options.builds.empty()) refuse("builds", "does not go with --program");
  if (options.by_hand && !options.own_commands)
    refuse("by-hand", "needs a plan file that names the variants: [variant.NAME]");
  if (options.by_hand && !options.builds.empty()) refuse("by-hand", "does not go with --builds");
  if (options.by_hand && options.counts.empty())
    refuse("by-hand", "needs the counts to record: counts in the plan, or --counts");
  if (options.by_hand && !options.arrive.empty())
    refuse("arrive", "does not go with --by-hand: record a run in which the count climbs, and import it");
  if (!options.own_commands) return;
  if (!options.arrive.empty()) check_arrivals(options);
  if (options.same_process)
    refuse("same-process", "does not go with a plan of commands, which are processes of their own");
  if (!options.program.empty()) refuse("program", "does not go with a plan of commands, which names its programs");
  if (!options.cold.empty())
    refuse("cold", "does not go with a plan of commands: nobody can walk memory between frames of another program");
}

void check_folder(const std::filesystem::path& folder, const std::string& plan_file) {
  if (std::filesystem::is_directory(folder)) return;
  throw Error({.file = plan_file,
               .field = "directory",
               .problem = "there is no such folder",
               .found = folder.filename().string(),
               .accepted = "the folder that the commands run in, relative to the plan"});
}

/// Fewer frames than needed would fail every run.
void check_frames_of_commands(const CommandPlan& commands, const PlanRequest& asked, const std::string& plan_file) {
  const int needed = asked.min_frames.value_or(Plan().min_frames);
  if (commands.frames == 0 || commands.frames >= needed) return;
  throw Error(
      {.file = std::filesystem::path(plan_file).filename().string(),
       .field = "command.frames",
       .problem = fmt::format("a run needs at least {} frames", needed),
       .found = fmt::format("{}", commands.frames),
       .accepted = fmt::format("{} or more, or frames = {} for the runs of the plan", needed, commands.frames)});
}

std::unique_ptr<Runner> runner_for(const MeasureOptions& options, const Catalogue& catalogue) {
  check_who_measures(options);
  const auto builds = builds_of(options);
  if (options.by_hand) return std::make_unique<PersonRunner>(options.own_commands->scenario);
  if (options.own_commands) {
    CommandPlan plan = options.own_commands->plan;
    check_folder(plan.directory, options.plan_file);
    plan.builds.insert(builds.begin(), builds.end());
    return std::make_unique<WithInstruments<CommandRunner>>(options.own_commands->scenario, std::move(plan),
                                                            memory_limit_of(options));
  }
  if (!builds.empty()) return std::make_unique<BuildsRunner>(builds, program_limits_of(options));
  if (options.same_process) return std::make_unique<WithInstruments<SameProcessRunner>>(catalogue);
  const std::filesystem::path program =
      options.program.empty() ? own_program() : std::filesystem::path(options.program);
  return std::make_unique<ProgramRunner>(program, program_limits_of(options));
}

Scenario scenario_asked_for(const MeasureOptions& options, const std::vector<Scenario>& offered) {
  if (!options.scenario.empty()) return scenario_named(options.scenario, offered);
  if (offered.size() == 1) return offered.front();
  throw Error({.kind = FaultKind::usage,
               .field = "scenario",
               .problem = "say which scenario",
               .accepted = "see `mileage list`"});
}

}  // namespace

MeasureRequest measure_request(MeasureOptions& options, const Catalogue& catalogue) {
  if (!options.plan_file.empty()) read_plan_file(options.plan_file, options);
  MeasureRequest request;
  request.asked = request_of(options);
  if (options.own_commands) check_frames_of_commands(options.own_commands->plan, request.asked, options.plan_file);
  request.runner = runner_for(options, catalogue);
  const std::vector<Scenario> offered = request.runner->describe();
  request.scenario = scenario_asked_for(options, offered);
  request.output = options.output.empty() ? request.scenario.name + ".study.jsonl" : options.output;
  return request;
}

Summary measure_now(const MeasureRequest& request, const Plan& plan, const MeasureOptions& options) {
  Head head = head_for(request.scenario, plan, request.runner->made_by());
  if (head.made_by == MadeBy::commands) {
    CommandPlan plan_of_builds = options.own_commands->plan;
    for (const auto& [name, program] : builds_of(options)) plan_of_builds.builds[name] = program;
    head.commands = command_lines(plan_of_builds);
  }
  head.plan_fingerprint = options.plan_fingerprint;
  head.plan_file = std::filesystem::path(options.plan_file).filename().string();
  return measure_into(request.output, head, *request.runner);
}

}  // namespace mileage
