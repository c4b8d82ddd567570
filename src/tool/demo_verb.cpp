#include <algorithm>
#include <filesystem>
#include <memory>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "analysis/analysed_study.h"
#include "analysis/answers/report.h"
#include "measure/loop/plan.h"
#include "measure/runners/program_runner.h"
#include "study/study_file.h"
#include "tool/answer_options.h"
#include "tool/answer_options.h"
#include "tool/measuring.h"
#include "tool/study_answers.h"
#include "tool/output.h"
#include "tool/report_files.h"
#include "tool/verbs.h"
#include "types/error.h"
#include "types/notation.h"
#include "views/views.h"
#include "views/report_view.h"
#include "figures/figures.h"

namespace mileage {
namespace {

struct DemoOptions {
  std::string folder = "mileage-demo";
  std::string time = "60s";
  bool json = false;
};

struct DemoFiles {
  std::filesystem::path study, page, figure;
};

/// The given name, or the next free number.
std::filesystem::path free_folder(const std::string& name) {
  std::filesystem::path folder = name;
  for (int number = 2; std::filesystem::exists(folder); ++number) folder = fmt::format("{}-{}", name, number);
  return folder;
}

DemoFiles make_folder(const std::string& name) {
  const std::filesystem::path folder = free_folder(name);
  std::error_code failed;
  std::filesystem::create_directories(folder, failed);
  if (failed) throw Error({.kind = FaultKind::cannot_write, .file = folder.string(), .problem = failed.message()});
  return {folder / "drift.study.jsonl", folder / "drift.html", folder / "drift.png"};
}

PlanRequest demo_request(const DemoOptions& options) {
  PlanRequest request;
  request.variants = {"objects", "records", "columns", "jobs"};
  request.counts = parse_counts("100..300k", 8, "counts");
  request.aim = true;
  request.time_s = parse_duration_s(options.time, "time");
  return request;
}

Answer answers(const Report& report, const DemoFiles& files) {
  const About& about = report.about;
  Answer view = capacity_view(about, report.capacities, report.limits);
  Answer choice = choice_view(about, report.choices, report.capacities);
  choice.tables.clear();
  view.add(std::move(choice));
  view.add(break_even_view(about, report.break_evens));
  for (const auto& file : {files.study, files.figure, files.page}) view.files.push_back(file.string());
  view.next = next_commands(about, files.study.string());
  return view;
}

int demo(const DemoOptions& options, const Catalogue& catalogue) {
  const Scenario& drift = scenario_named("drift", catalogue.scenarios());
  const Plan plan = make_plan(drift, demo_request(options));
  const DemoFiles files = make_folder(options.folder);
  ProgramRunner runner(own_program());
  if (!options.json) print_message(fmt::format("drift: {}; four variants, about {:.0f} s", drift.note, plan.time_s));
  const Summary summary = measure_into(files.study, head_for(drift, plan, runner.made_by()), runner);
  if (summary.kept == 0) return exit_code_of(summary);

  const Report report = report_of(AnalysedStudy(read_study(files.study)).analysis(), {});
  write_figure(files.figure, report);
  write_page(files.page, report);
  if (options.json)
    print(report_json({report}));
  else
    print_answer({}, "demo", {report.about}, answers(report, files));
  return exit_code_of(summary);
}

}  // namespace

void add_demo_verb(CommandLine& line, const Catalogue& catalogue) {
  if (catalogue.find("drift") == nullptr) return;
  auto options = std::make_shared<DemoOptions>();
  Verb verb = line.add_verb("demo", "All of it on a small festival study, in about a minute",
                            "  mileage demo\n  mileage demo --time 20s -o first-look\n",
                            [options, &catalogue] { return demo(*options, catalogue); });
  verb.option("-o,--output", options->folder, "folder to write to; an existing one is left alone");
  verb.option("--time", options->time, "how long to measure");
  verb.comes_back("  At 60 Hz (16.7 ms): jobs 3.19M lanterns, columns 1.62M, records 357k, objects 342k.\n");
  add_json(verb, options->json);
}

}  // namespace mileage
