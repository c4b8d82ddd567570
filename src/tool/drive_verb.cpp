// drive: a running program is told which variant and count to show next.
#include <unistd.h>

#include <algorithm>
#include <cstdio>
#include <filesystem>
#include <memory>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "measure/drive_runner.h"
#include "study/study_file.h"
#include "tool/answer_options.h"
#include "tool/exit_codes.h"
#include "tool/measure_options.h"
#include "tool/measuring.h"
#include "tool/output.h"
#include "tool/verbs.h"
#include "types/error.h"
#include "types/notation.h"

namespace mileage {
namespace {

/// How long a program may take to connect.
constexpr double connect_within_s = 600;
constexpr const char* usual_precision = "3%";
constexpr int usual_frames = 10;

struct DriveOptions : MeasureOptions {
  std::string listen = "127.0.0.1:7300";
};

/// Visits that earlier runs put into the file; those of this run follow them.
std::size_t visits_so_far(const std::string& output) {
  return std::filesystem::exists(output) ? read_study(output).visits.size() : 0;
}

std::unique_ptr<LineChannel> channel_on(const std::string& listen) {
  if (listen == "-") return std::make_unique<DescriptorChannel>(STDIN_FILENO, STDOUT_FILENO, false);
  Listening listening(listen);
  if (!listening.is_local()) warn("listening beyond this machine: whoever reaches this port can take part in the study");
  warn(fmt::format("listening on {}:{}; start the program now (mileage/drive.h)", listen.substr(0, listen.rfind(':')), listening.port()));
  const InterruptGuard guard;
  const auto socket = listening.accept(connect_within_s, [] { return was_interrupted(); });
  if (!socket)
    throw Error({.kind = FaultKind::cannot_measure, .field = "--listen", .problem = "no program connected", .accepted = "one that calls drive_open()"});
  return std::make_unique<DescriptorChannel>(*socket, *socket, true);
}

Wish wish_for(DriveOptions options, std::int64_t most) {
  if (options.precision.empty() && options.time.empty() && options.blocks == 0) options.precision = usual_precision;
  if (options.frames == 0) options.frames = usual_frames;
  if (options.counts.empty() && most > 0) options.counts = fmt::format("{}..{}", std::max<std::int64_t>(1, most / 1000), most);
  Wish wish = wish_of(options);
  wish.most_count = most;
  return wish;
}

int drive(const DriveOptions& options) {
  const std::size_t earlier = options.output.empty() ? 0 : visits_so_far(options.output);
  const auto channel = channel_on(options.listen);
  OwnInstruments own;
  DriveRunner runner(*channel, own.instruments, static_cast<std::int64_t>(earlier));
  const std::vector<Scenario> offered = runner.describe();
  const Scenario& scenario = offered.front();
  const std::string output = options.output.empty() ? scenario.name + ".study.jsonl" : options.output;
  const Plan plan = make_plan(scenario, wish_for(options, runner.most()));

  MeasureHow how;
  how.joins = true;
  how.stop = [&] { return runner.is_gone(); };
  const Summary summary = measure_into(output, head_for(scenario, plan), runner, how);
  const bool was_left = runner.is_gone();
  runner.say_goodbye(summary.stopped ? "stopped" : "enough was seen");
  const auto tell = [&](const std::string& text) { options.listen == "-" ? static_cast<void>(std::fputs(text.c_str(), stderr)) : print(text); };
  if (was_left) complain("the program went before the plan was done; run it again to go on, into the same file");
  if (options.json && options.listen != "-") {
    Json json = summary_json("drive", summary, output);
    json["frames_shown"] = runner.frames_shown();
    print(json);
  } else {
    tell(summary_text(summary, plan, output));
    if (summary.kept > 0) tell(what_is_known(output));
  }
  return was_left && summary.kept > 0 ? exit_some_visits_failed : exit_code_of(summary);
}

}  // namespace

void add_drive_verb(CommandLine& line) {
  auto options = std::make_shared<DriveOptions>();
  Verb verb = line.add_verb("drive", "Tell a running program which variant and count to show next, and take its frame times",
                            "  mileage drive --for capacity@60hz -o night.study.jsonl        # then start the program\n"
                            "  mileage drive --listen 127.0.0.1:7311 --counts 100..20k --precision 5% -o night.study.jsonl\n"
                            "  mileage drive -o night.study.jsonl                            # once more: another run joins the study\n",
                            [options] { return drive(*options); });
  verb.option("--listen", options->listen, "where the program connects to; - for standard input and output (a pipe)");
  verb.option("--variants", options->variants, "which of its variants (preset: all)");
  verb.option("--counts", options->counts, "a list 1k,5k,20k or a span 100..20k (preset: up to what the program can show)");
  verb.option("--points", options->points, 2, 100, "counts in a span");
  verb.option("--budget", options->budget, "counts far over it are left out: 60hz or 16.7ms (preset: 60hz)");
  verb.option("--for", options->goal, "the goal: capacity, capacity@30hz or breakeven:nodes,columns (preset: capacity)");
  verb.option("--precision", options->precision, "go on until the goal's intervals are so narrow (preset: 3%, unless --time or --blocks is given)");
  verb.option("--time", options->time, "stop with the last visit that fits into it, such as 60s");
  verb.option("--blocks", options->blocks, 1, 1000, "passes over all cells, at most");
  verb.option("--frames", options->frames, 1, 100'000, "measured frames of a visit, at least (preset: 10)");
  verb.option("--seed", options->seed, "of the order of visits (preset: 1)");
  verb.option("-o,--output", options->output, "the study file to write; a run of the same program joins one that is there");
  add_json(verb, options->json);
}

}  // namespace mileage
