#include <unistd.h>

#include <algorithm>
#include <cstdio>
#include <filesystem>
#include <memory>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "measure/runners/drive_runner.h"
#include "system/stop_signals.h"
#include "tool/answer_options.h"
#include "tool/exit_codes.h"
#include "tool/measure_options.h"
#include "tool/measuring.h"
#include "tool/output.h"
#include "tool/verbs.h"
#include "types/error.h"
#include "types/notation.h"
#include "types/scenario_check.h"
#include "types/text.h"

namespace mileage {
namespace {

/// For the program to connect.
constexpr double connect_within_s = 600;
constexpr const char* usual_precision = "3%";
constexpr int usual_frames = 10;

struct DriveOptions : MeasureOptions {
  std::string listen = "127.0.0.1:7300";
};

struct Met {
  std::unique_ptr<LineChannel> channel;
  std::unique_ptr<DriveRunner> runner;
  Scenario scenario;
};

Met greeted(std::unique_ptr<LineChannel> channel, const Instruments& instruments) {
  auto runner = std::make_unique<DriveRunner>(*channel, instruments);
  Scenario scenario = runner->describe().front();
  return {std::move(channel), std::move(runner), std::move(scenario)};
}

/// Skips clients without a hello.
Met meet_program(const std::string& listen, const Instruments& instruments) {
  if (listen == "-")
    return greeted(std::make_unique<DescriptorChannel>(STDIN_FILENO, STDOUT_FILENO, false), instruments);
  Listening listening(listen);
  if (!listening.is_local())
    print_message("listening beyond this machine: anyone who reaches this port can take part in the study");
  print_message(fmt::format("listening on {}:{}; start the program now (mileage/drive.h)",
                            listen.substr(0, listen.rfind(':')), listening.port()));
  while (const auto socket = listening.accept(connect_within_s, is_stop_asked)) {
    try {
      return greeted(std::make_unique<DescriptorChannel>(*socket, *socket, true), instruments);
    } catch (const Error& error) {
      if (is_stop_asked()) break;
      print_message(fmt::format("not taken, still listening: {}", error.what()));
    }
  }
  throw Error({.kind = FaultKind::cannot_measure,
               .field = "listen",
               .problem = is_stop_asked() ? "stopped before a program connected" : "no program connected",
               .accepted = "one that calls drive_open()"});
}

PlanRequest plan_request(DriveOptions options, std::int64_t max) {
  if (options.precision.empty() && options.time.empty() && options.blocks == 0) options.precision = usual_precision;
  if (options.frames == 0) options.frames = usual_frames;
  if (options.counts.empty() && max > 0)
    options.counts = max == 1 ? "1" : fmt::format("{}..{}", std::max<std::int64_t>(1, max / 1000), max);
  PlanRequest request = request_of(options);
  request.max_count = max;
  return request;
}

/// Empty if it did not.
std::string why_it_ended_early(const DriveRunner& runner, bool was_gone) {
  if (!runner.hung_up_because().empty())
    return fmt::format("the program was hung up on: it {}; mend it and run it again to go on, into the same file",
                       runner.hung_up_because());
  return was_gone ? "the program went before the plan was done; run it again to go on, into the same file" : "";
}

int exit_code_of_run(const Summary& summary, bool ended_early) {
  if (is_stop_asked()) return exit_interrupted;
  if (summary.kept == 0) return exit_nothing_measured;
  return ended_early || summary.failed > summary.made_again ? exit_some_runs_failed : exit_answered;
}

int drive(const DriveOptions& options) {
  const StopGuard guard;
  OwnInstruments own;
  const Met met = meet_program(options.listen, own.instruments);
  DriveRunner& runner = *met.runner;
  const std::string output = options.output.empty() ? plain_name(met.scenario.name) + ".study.jsonl" : options.output;
  Summary summary;
  Plan plan;
  try {
    plan = make_plan(met.scenario, plan_request(options, runner.max()));
    MeasureHow how;
    how.joins = true;
    how.stop = [&] { return runner.is_gone(); };
    summary = measure_into(output, head_for(met.scenario, plan, runner.made_by()), runner, how);
  } catch (const Error& error) {
    runner.say_goodbye(error.what());
    throw;
  }
  const std::string early = why_it_ended_early(runner, runner.is_gone());
  runner.say_goodbye(is_stop_asked() ? "stopped" : "enough was seen");
  if (!early.empty() && !is_stop_asked()) print_message(early);
  // Standard output may belong to the program.
  const auto show = [&](const std::string& text) {
    if (options.listen == "-")
      std::fputs(printable(text).c_str(), stderr);
    else if (options.json)
      print_as_it_is(text);
    else
      print(text);
  };
  if (options.json) {
    Json json = summary_json("drive", summary, output);
    json["frames_shown"] = runner.frames_shown();
    show(to_text(json));
  } else {
    show(measured_text(summary, plan, output));
    if (summary.kept == 0) show(why_nothing(output));
  }
  return exit_code_of_run(summary, !early.empty());
}

}  // namespace

void add_drive_verb(CommandLine& line) {
  auto options = std::make_shared<DriveOptions>();
  Verb verb = line.add_verb(
      "drive", "Measure a program that keeps running: choose what it shows next",
      "  mileage drive --for capacity@60hz -o night.study.jsonl        # then start the program\n"
      "  mileage drive --listen 127.0.0.1:7311 --counts 100..20k --precision 5% -o night.study.jsonl\n"
      "  mileage drive -o night.study.jsonl                            # again: another process joins the study\n",
      [options] { return drive(*options); });
  verb.option("--listen", options->listen, "where the program connects to; - for standard input and output (a pipe)");
  verb.option("--variants", options->variants, "which of its variants (default: all)");
  verb.option("--counts", options->counts,
              "a list 1k,5k,20k or a span 100..20k (default: up to what the program can show)");
  verb.option("--points", options->points, 2, 100, "counts in a span");
  verb.option("--budget", options->budget, "the frame budget: 60hz or 16.7ms (default: 60hz)");
  verb.option("--for", options->goal,
              "the goal: capacity, capacity@30hz or breakeven:linked,columns (default: capacity)");
  verb.option("--precision", options->precision,
              "go on until the goal's intervals are so narrow (default: 3%, unless --time or --blocks is given)");
  verb.option("--time", options->time, "how long to measure, such as 60s");
  verb.option("--blocks", options->blocks, 1, 1000, "passes over all cells, at most");
  verb.option("--frames", options->frames, 1, 100'000, "least measured frames per run (default: 10)");
  verb.option("--arrive", options->arrive, "number of entities that arrive at once in every run, such as 50");
  verb.option("--seed", options->seed, "seed of the order of runs (default: 1)");
  verb.option("-o,--output", options->output,
              "the study file to write; a run of the same program joins one that is there");
  verb.comes_back("  At 60 Hz (16.7 ms): columns 930k lanterns, linked 152k.\n");
  add_json(verb, options->json);
}

}  // namespace mileage
