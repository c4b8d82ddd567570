#include <algorithm>
#include <memory>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "analysis/answers/ladder.h"
#include "tool/answer_options.h"
#include "tool/exit_codes.h"
#include "tool/measure_request.h"
#include "tool/output.h"
#include "tool/report_files.h"
#include "tool/verbs.h"
#include "types/error.h"
#include "types/notation.h"
#include "views/views.h"
#include "figures/figures.h"

namespace mileage {
namespace {

constexpr const char* usual_ladder_time = "60s";

struct LadderOptions {
  std::vector<std::string> from;  ///< A plan, or studies.
  std::string rungs;
  MeasureOptions measuring;
  AnswerOptions answering;
  std::string figure;
};

bool is_plan(const std::vector<std::string>& from) { return from.size() == 1 && from.front().ends_with(".toml"); }

[[noreturn]] void refuse_rung(const std::string& text, const char* problem, const std::string& accepted) {
  throw Error({.kind = FaultKind::usage, .field = "rungs", .problem = problem, .found = text, .accepted = accepted});
}

const Knob& knob_named(const Scenario& scenario, const std::string& name, const std::string& text) {
  for (const Knob& knob : scenario.knobs)
    if (knob.name == name) return knob;
  for (const VariantFacts& facts : scenario.variants)
    for (const Knob& knob : facts.knobs)
      if (knob.name == name) return knob;
  refuse_rung(text, "no such knob in this scenario", "see `mileage list --scenario " + scenario.name + "`");
}

KnobValue value_of(const Knob& knob, const std::string& text) {
  if (!knob.numeric()) {
    if (std::find(knob.choices.begin(), knob.choices.end(), text) == knob.choices.end())
      refuse_rung(text, "not a value of this knob", fmt::format("{}", fmt::join(knob.choices, ", ")));
    return text;
  }
  const double value = knob.whole ? static_cast<double>(parse_whole(text, "rungs")) : parse_number(text, "rungs");
  if (value < knob.min || value > knob.max)
    refuse_rung(text, "not a value of this knob", fmt::format("a number from {} to {}", knob.min, knob.max));
  return value;
}

/// "scatter=0", "variant=columns", or a comma-separated list.
Rung parse_rung(const std::string& text, const Scenario& scenario) {
  Rung rung;
  rung.name = text;
  for (const std::string& setting : split(text, ',')) {
    const auto named = named_value(setting);
    if (!named) refuse_rung(setting, "not a setting", "KNOB=VALUE or variant=NAME");
    if (named->first == "variant") {
      if (scenario.find(named->second) == nullptr) refuse_rung(setting, "no such variant", "one of the scenario");
      rung.variant = named->second;
    } else {
      rung.knobs.set(named->first, value_of(knob_named(scenario, named->first, setting), named->second));
    }
  }
  return rung;
}

int answer_only(LadderOptions& options) {
  options.answering.studies = options.from;
  options.answering.variants = options.measuring.variants;
  options.answering.knobs = options.measuring.knobs;
  const std::vector<AskedStudy> studies = analyse_studies(options.answering);
  std::vector<About> abouts;
  std::vector<const Analysis*> analyses;
  std::vector<std::string> names;
  for (const AskedStudy& one : studies) {
    abouts.push_back(one.about);
    analyses.push_back(&one.analysis());
    names.push_back(one.about.study);
  }
  const LadderAnswer answer = studies.size() == 1 ? ladder_answer(studies.front().analysis(), studies.front().questions)
                                                  : ladder_of_studies(analyses, names, studies.front().questions);
  Answer view = ladder_view(abouts.front(), answer);
  if (!options.figure.empty()) {
    write_file(options.figure, ladder_figure(abouts.front(), answer, figure_format(options.figure)));
    view.files.push_back(options.figure);
  }
  view.add(not_measured_view(studies.front()));
  print_answer(options.answering, "ladder", abouts, std::move(view));
  return answer.rungs.empty() ? exit_cannot_answer : exit_code_for(studies);
}

int measure_and_answer(LadderOptions& options, const Catalogue& catalogue) {
  MeasureOptions& measuring = options.measuring;
  if (!options.from.empty()) measuring.plan_file = options.from.front();
  if (!options.answering.at.empty()) measuring.counts = options.answering.at;
  if (measuring.time.empty()) measuring.time = usual_ladder_time;
  if (!options.answering.budgets.empty()) measuring.budget = options.answering.budgets;
  MeasureRequest request = measure_request(measuring, catalogue);
  if (measuring.output.empty()) request.output = request.scenario.name + ".ladder.study.jsonl";
  if (request.asked.variants.empty()) request.asked.variants = {request.scenario.variants.front().name};
  Plan plan = make_plan(request.scenario, request.asked);
  plan.series.resize(1);
  for (const std::string& text : split(options.rungs, ';')) plan.rungs.push_back(parse_rung(text, request.scenario));
  plan.series = Ladder(request.scenario, plan).all();
  lengthen_runs_at_one_count(plan, request.asked.min_ms);
  const Summary summary = measure_now(request, plan, measuring);
  if (summary.kept == 0) {
    print_message(why_nothing(request.output));
    return exit_code_of(summary);
  }
  options.from = {request.output};
  measuring.variants.clear();  // The study holds nothing else.
  measuring.knobs.clear();
  answer_only(options);
  return exit_code_of(summary);
}

int run_ladder(LadderOptions& options, const Catalogue& catalogue) {
  const bool measures = options.from.empty() || is_plan(options.from);
  if (measures && options.rungs.empty())
    throw Error(
        {.kind = FaultKind::usage,
         .field = "rungs",
         .problem = "say which changes, in order",
         .accepted = "--rungs \"scatter=0; variant=columns; variant=jobs,workers=2\", or studies to answer from"});
  return measures ? measure_and_answer(options, catalogue) : answer_only(options);
}

}  // namespace

void add_ladder_verb(CommandLine& line, const Catalogue& catalogue) {
  auto options = std::make_shared<LadderOptions>();
  Verb verb = line.add_verb(
      "ladder", "Changes in order: what each brings on top of the last, alone, and removed last",
      "  mileage ladder --scenario drift --variants objects --knob scatter=1 --rungs \"scatter=0; variant=columns; "
      "variant=jobs\" --at 100k\n"
      "  mileage ladder drift.ladder.study.jsonl --at 100k --figure ladder.png\n"
      "  mileage ladder monday.study.jsonl tuesday.study.jsonl --variants objects --at 20k\n",
      [options, &catalogue] { return run_ladder(*options, catalogue); }, &options->measuring.origins);
  verb.operands_or_none("FROM", options->from,
                        "a plan of commands (*.toml) to measure, or studies in order, each a rung");
  verb.option("--rungs", options->rungs,
              "the changes in order, with semicolons between: \"scatter=0; variant=jobs,workers=2\"");
  verb.option("--scenario", options->measuring.scenario, "what to measure; see `mileage list`");
  verb.option("--variants", options->measuring.variants,
              "the variant of the base (default: the first); of studies: the one that is the rung");
  verb.option("--knob", options->measuring.knobs, "a knob of the base: scatter=1");
  add_at(verb, options->answering, "the count, such as 100k; several improve capacities");
  add_budgets(verb, options->answering);
  verb.option("--time", options->measuring.time, "how long to measure (default: 60s)");
  verb.option("--program", options->measuring.program,
              "measure this program instead; its main calls mileage::serve_runs");
  verb.option("-o,--output", options->measuring.output,
              "the study file to write (default: SCENARIO.ladder.study.jsonl)");
  verb.option("--figure", options->figure, "draw the cost change by change, .png or .svg");
  verb.comes_back("  At 100k lanterns, 4 changes together: 13.9 → 1.01 ms (0.072x, 0.064 to 0.081).\n");
  add_more_and_json(verb, options->answering);
}

}  // namespace mileage
