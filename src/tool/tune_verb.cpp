#include <algorithm>
#include <cmath>
#include <memory>

#include <fmt/format.h>

#include "analysis/answers/tuning.h"
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

constexpr const char* usual_tuning_time = "60s";
constexpr const char* usual_tuning_count = "100k";
/// Of a span.
constexpr int values_a_decade = 4;

struct TuneOptions {
  std::string from;  ///< A plan or a study.
  MeasureOptions measuring;
  AnswerOptions answering;
  std::string figure;
};

bool is_study(const std::string& name) { return name == "demo" || name.ends_with(".jsonl"); }

/// "batch=16..1M" becomes a list of values.
std::string with_spans_spelled(const std::string& knob) {
  const auto named = named_value(knob);
  if (!named || named->second.find("..") == std::string::npos) return knob;
  const std::vector<std::int64_t> ends = parse_counts(named->second, 2, "knob " + named->first);
  const double decades = std::log10(static_cast<double>(ends.back()) / static_cast<double>(ends.front()));
  const int points = std::max(4, static_cast<int>(std::lround(values_a_decade * decades)) + 1);
  std::string values;
  for (const std::int64_t value : parse_counts(named->second, points, "knob " + named->first))
    values += fmt::format("{}{}", values.empty() ? "" : ",", value);
  return named->first + "=" + values;
}

/// Adds the default, to show what it loses.
void add_default(const Scenario& scenario, const std::string& name, PlanRequest& request) {
  const auto add = [&](const Knob& knob) {
    if (knob.name != name) return;
    std::vector<std::string>& values = request.knobs[name];
    const double* default_value = std::get_if<double>(&knob.default_value);
    const bool is_there = std::any_of(values.begin(), values.end(), [&](const std::string& value) {
      return default_value != nullptr ? parse_number(value, name) == *default_value
                                      : value == std::get<std::string>(knob.default_value);
    });
    if (!is_there) values.push_back(text_of(knob.default_value));
  };
  for (const Knob& knob : scenario.knobs) add(knob);
  for (const VariantFacts& facts : scenario.variants)
    if (request.variants.empty() || facts.name == request.variants.front())
      for (const Knob& knob : facts.knobs) {
        add(knob);
        if (knob.name == name) return;
      }
}

std::vector<std::string> tuned_knobs(const PlanRequest& request) {
  std::vector<std::string> knobs;
  for (const auto& [name, values] : request.knobs)
    if (values.size() > 1) knobs.push_back(name);
  if (knobs.empty() || knobs.size() > 2)
    throw Error({.kind = FaultKind::usage,
                 .field = "knob",
                 .problem = knobs.empty() ? "no knob has several values" : "more than two knobs have several values",
                 .accepted = "one knob or two with several values, such as batch=16..1M"});
  return knobs;
}

/// Returns the exit code.
int print_tuning(const TuneOptions& options, const std::vector<std::string>& knobs) {
  bool is_answered = false;
  answer_studies(options.answering, "tune", [&](const AskedStudy& one) {
    const TuningAnswer answer = tuning_answer(one.analysis(), knobs, one.questions);
    Answer view = tuning_view(one.about, answer);
    is_answered = is_answered || !answer.empty();
    if (!options.figure.empty() && !answer.empty()) {
      write_file(options.figure, tuning_figure(one.about, answer, figure_format(options.figure)));
      view.files.push_back(options.figure);
    }
    return view;
  });
  return is_answered ? exit_answered : exit_cannot_answer;
}

/// Over knobs named without a value or with several; single values select.
int answer_only(TuneOptions& options) {
  std::vector<std::string> knobs;
  for (const std::string& knob : options.measuring.knobs) {
    const auto named = named_value(knob);
    const bool is_one_value =
        named && named->second.find(",") == std::string::npos && named->second.find("..") == std::string::npos;
    if (is_one_value)
      options.answering.knobs.push_back(knob);
    else
      knobs.push_back(named ? named->first : knob);
  }
  options.answering.variants = options.measuring.variants;
  options.answering.studies = {options.from};
  return print_tuning(options, knobs);
}

int measure_and_answer(TuneOptions& options, const Catalogue& catalogue) {
  MeasureOptions& measuring = options.measuring;
  measuring.plan_file = options.from;
  measuring.counts = options.answering.at.empty() ? usual_tuning_count : options.answering.at;
  if (measuring.time.empty()) measuring.time = usual_tuning_time;
  if (!options.answering.budgets.empty()) measuring.budget = options.answering.budgets;
  measuring.no_refine = true;
  for (std::string& knob : measuring.knobs) knob = with_spans_spelled(knob);
  MeasureRequest request = measure_request(measuring, catalogue);
  const std::vector<std::string> knobs = tuned_knobs(request.asked);
  for (const std::string& knob : knobs) add_default(request.scenario, knob, request.asked);
  request.asked.tune = knobs;
  if (measuring.output.empty()) request.output = request.scenario.name + ".tune.study.jsonl";
  const Plan plan = make_plan(request.scenario, request.asked);
  const Summary summary = measure_now(request, plan, measuring);
  if (summary.kept == 0) {
    print_message(why_nothing(request.output));
    return exit_code_of(summary);
  }
  options.answering.studies = {request.output};
  print_tuning(options, knobs);
  return exit_code_of(summary);
}

}  // namespace

void add_tune_verb(CommandLine& line, const Catalogue& catalogue) {
  auto options = std::make_shared<TuneOptions>();
  Verb verb = line.add_verb(
      "tune", "Which value of a knob is best, and which are within noise of it",
      "  mileage tune --scenario drift --variants jobs --knob batch=16..1M --at 3k,100k\n"
      "  mileage tune --scenario drift --variants jobs --knob workers=1,2,4 --at 300k\n"
      "  mileage tune night.toml --knob layout=rows,tiles --at 20k --time 2min\n"
      "  mileage tune drift.tune.study.jsonl --figure batch.png\n",
      [options, &catalogue] {
        return is_study(options->from) ? answer_only(*options) : measure_and_answer(*options, catalogue);
      },
      &options->measuring.origins);
  verb.operand("FROM", options->from,
               "a plan of commands (*.toml) to measure, or a study (*.study.jsonl) to answer from");
  verb.option("--scenario", options->measuring.scenario, "what to measure; see `mileage list`");
  verb.option("--variants", options->measuring.variants, "the variant whose knob it is");
  verb.option("--knob", options->measuring.knobs,
              "the knob with its values, a list or a span: batch=16..1M; others with one value: scatter=1");
  add_at(verb, options->answering, "fixed counts, such as 3k,100k (default: 100k)");
  verb.option("--time", options->measuring.time, "how long to measure (default: 60s)");
  verb.option("--program", options->measuring.program,
              "measure this program instead; its main calls mileage::serve_runs");
  verb.option("-o,--output", options->measuring.output, "the study file to write (default: SCENARIO.tune.study.jsonl)");
  add_min_saving(verb, options->answering);
  verb.option("--figure", options->figure, "draw the cost over the knob, .png or .svg");
  verb.comes_back(
      "  At 100k lanterns: batch 16384 is fastest (1.31 ms), but anything from 16 to 16384 is within noise. Keep "
      "...\n");
  add_more_and_json(verb, options->answering);
}

}  // namespace mileage
