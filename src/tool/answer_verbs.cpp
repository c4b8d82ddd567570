// curve, capacity, breakeven: verbs that answer from study files.
#include <memory>

#include <nlohmann/json.hpp>

#include "tool/answer_options.h"
#include "tool/answer_text.h"
#include "tool/exit_codes.h"
#include "tool/output.h"
#include "tool/verbs.h"
#include "views/findings_json.h"

namespace mileage {
namespace {

/// Answers as JSON, or study by study as text.
template <class AsJson, class AsText>
int answer(const AnswerOptions& options, AsJson as_json, AsText as_text) {
  const std::vector<Findings> studies = analyse_studies(options);
  if (options.json) {
    print(as_json(studies));
    return exit_answered;
  }
  for (const Findings& findings : studies) print(preamble(findings) + as_text(findings) + evidence_footer(findings));
  return exit_answered;
}

/// One study in full; several side by side.
int answer_capacities(const AnswerOptions& options) {
  if (options.studies.size() < 2 || options.json) return answer(options, capacity_json, capacity_answer);
  const std::vector<Findings> studies = analyse_studies(options);
  for (const Findings& findings : studies) print(preamble(findings));
  print(capacities_side_by_side(studies));
  for (const Findings& findings : studies) print(evidence_footer(findings) + "\n");
  return exit_answered;
}

}  // namespace

void add_curve_verb(CommandLine& line) {
  struct CurveOptions : AnswerOptions {
    bool points = false;
    bool parts = false;
  };
  auto options = std::make_shared<CurveOptions>();
  Verb verb = line.add_verb("curve", "How does cost grow with count: law, exponent, cost per entity",
                            "  mileage curve demo/drift.study.jsonl\n  mileage curve demo/drift.study.jsonl --points --parts\n"
                            "  mileage curve demo/drift.study.jsonl --against objects\n"
                            "  mileage curve work.study.jsonl --over work\n", [options] {
                              return answer(*options, curve_json, [&](const Findings& findings) {
                                return curve_answer(findings, options->points, options->parts);
                              });
                            });
  add_studies(verb, *options);
  add_over(verb, *options);
  verb.option("--against", options->against, "hold all others against this variant, count by count");
  verb.flag("--points", options->points, "list every measured count too");
  verb.flag("--parts", options->parts, "list where the time goes: threads, phases, counters, memory");
  add_json(verb, options->json);
}

void add_capacity_verb(CommandLine& line) {
  auto options = std::make_shared<AnswerOptions>();
  Verb verb = line.add_verb("capacity", "How many entities fit a frame budget",
                            "  mileage capacity demo/drift.study.jsonl --budget 60hz\n"
                            "  mileage capacity demo/drift.study.jsonl --budget 60hz,30hz --reserve 9ms --at 20k\n"
                            "  mileage capacity mine.study.jsonl yours.study.jsonl\n",
                            [options] { return answer_capacities(*options); });
  add_studies(verb, *options);
  add_budgets(verb, *options);
  add_at(verb, *options, "counts to state the headroom at, such as 20k");
  add_over(verb, *options);
  add_json(verb, options->json);
}

void add_breakeven_verb(CommandLine& line) {
  auto options = std::make_shared<AnswerOptions>();
  Verb verb = line.add_verb("breakeven", "From which count on is one variant cheaper than another; what is saved",
                            "  mileage breakeven demo/drift.study.jsonl\n"
                            "  mileage breakeven demo/drift.study.jsonl --between objects,jobs --at 3k,30k\n",
                            [options] {
                              return answer(*options, break_even_json, [](const Findings& findings) {
                                return break_even_answer(findings) + cost_answer(findings);
                              });
                            });
  add_studies(verb, *options);
  verb.option("--between", options->between, "look at all pairs of these variants (preset: each with the next one)");
  add_at(verb, *options, "counts to state the saving at, such as 3k,30k");
  add_budgets(verb, *options);
  add_worth(verb, *options);
  add_over(verb, *options);
  add_json(verb, options->json);
}

void add_choose_verb(CommandLine& line) {
  auto options = std::make_shared<AnswerOptions>();
  Verb verb = line.add_verb("choose", "Which variant to use from which count to which; what to do at a count",
                            "  mileage choose demo/drift.study.jsonl --at 3k --reserve 9ms\n"
                            "  mileage choose demo/drift.study.jsonl --at 3k,100k --worth 5%\n",
                            [options] { return answer(*options, choose_json, choose_answer); });
  add_studies(verb, *options);
  add_at(verb, *options, "your own counts, such as 3k");
  add_budgets(verb, *options);
  add_worth(verb, *options);
  add_over(verb, *options);
  add_json(verb, options->json);
}

}  // namespace mileage
