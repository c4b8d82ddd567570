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
#include "tool/measuring.h"
#include "tool/output.h"
#include "tool/report_files.h"
#include "tool/verbs.h"
#include "types/error.h"
#include "types/notation.h"
#include "views/about_view.h"
#include "views/break_even_view.h"
#include "views/capacity_view.h"
#include "views/choice_view.h"
#include "views/cost_view.h"
#include "views/parts_view.h"
#include "views/report_json.h"

namespace mileage {
namespace {

/// In a minute more blocks tell more than more frames.
constexpr int demo_heavy_frames = 6;

struct DemoOptions {
  std::string folder = "mileage-demo";
  std::string time = "60s";
  bool json = false;
};

struct DemoFiles {
  std::filesystem::path study, page, figure;
};

/// A folder that does not exist yet: the name given, or the name with the next free number.
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

/// Four variants of drift under one condition; the aims find every capacity.
PlanRequest demo_request(const DemoOptions& options) {
  PlanRequest request;
  request.variants = {"objects", "records", "columns", "jobs"};
  request.counts = parse_counts("100..300k", 8, "counts");
  request.aim = true;
  request.time_s = parse_duration_s(options.time, "time");
  return request;
}

Plan demo_plan(const Scenario& drift, const DemoOptions& options) {
  Plan plan = make_plan(drift, demo_request(options));
  plan.heavy_frames = demo_heavy_frames;
  return plan;
}

std::string answers(const Report& report) {
  const About& about = report.about;
  return preamble(about) + capacity_text(about, report.capacities) + device_text(about, report.parts) +
         missing_measurements_text(about, report.capacities) + break_even_text(about, report.break_evens) +
         strips_text(about, report.choices, report.capacities);
}

std::string files_text(const DemoFiles& files) {
  return fmt::format("study   {}\nfigure  {}\npage    {}\n", files.study.string(), files.figure.string(),
                     files.page.string()) +
         go_on_with({"cost", "capacity", "breakeven", "choose", "curve"}, files.study.string());
}

int demo(const DemoOptions& options, const Catalogue& catalogue) {
  const Scenario& drift = scenario_named("drift", catalogue.scenarios());
  const Plan plan = demo_plan(drift, options);
  const DemoFiles files = make_folder(options.folder);
  ProgramRunner runner(own_program());
  if (!options.json)
    print(fmt::format("drift: {}.\nFour ways of writing it, measured for about {:.0f} s on this machine.\n\n",
                      drift.note, plan.time_s));
  const Summary summary = measure_into(files.study, head_for(drift, plan, runner.made_by()), runner);
  if (summary.kept == 0) return exit_code_of(summary);

  const Report report = report_of(AnalysedStudy(read_study(files.study)).analysis(), {});
  if (options.json)
    print(report_json({report}));
  else
    print(answers(report) + evidence_line(report.about) + "\n");
  write_figure(files.figure, report);
  write_page(files.page, report);
  if (!options.json) print(files_text(files));
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
  verb.comes_back(
      "  In 16.7 ms (60 Hz), jobs holds 3.2M lanterns, columns 1.6M, records 362k, objects only 357k.\n"
      "    use      instead of   from  95 % interval     saves then\n"
      "    columns  records     9.32k  (8.89k to 9.78k)  16.0 ms at 449k\n");
  add_json(verb, options->json);
}

}  // namespace mileage
