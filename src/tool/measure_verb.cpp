#include <memory>

#include <nlohmann/json.hpp>

#include "tool/answer_options.h"
#include "tool/dry_run.h"
#include "tool/exit_codes.h"
#include "tool/measure_request.h"
#include "tool/output.h"
#include "tool/verbs.h"

namespace mileage {
namespace {

int measure(MeasureOptions& options, const Catalogue& catalogue) {
  const MeasureRequest request = measure_request(options, catalogue);
  const std::string& output = request.output;
  const Plan plan = make_plan(request.scenario, request.asked);
  if (options.dry_run) {
    show_dry_run(request.scenario, plan, output, options.json);
    return exit_answered;
  }
  const Summary summary = measure_now(request, plan, options);
  if (options.json)
    print(summary_json("measure", summary, output));
  else
    print(measured_text(summary, plan, output));
  if (summary.kept == 0) print_message(why_nothing(output));
  return exit_code_of(summary);
}

}  // namespace

void add_measure_verb(CommandLine& line, const Catalogue& catalogue) {
  auto options = std::make_shared<MeasureOptions>();
  Verb verb = line.add_verb(
      "measure", "Measure a study: interleaved runs, written to a file as they are made",
      "  mileage measure --scenario drift --variants objects,columns --counts 100..200k --time 30s -o "
      "night.study.jsonl\n"
      "  mileage measure --scenario drift --knob scatter=0,1 --knob workers=1,2 --blocks 8 -o workers.study.jsonl\n"
      "  mileage measure --scenario drift --precision 3% --for breakeven:objects,columns -o pair.study.jsonl\n"
      "  mileage measure night.toml --dry-run\n"
      "  mileage measure --program ./my_game --scenario rings -o rings.study.jsonl\n"
      "  mileage measure night.toml --by-hand --counts 2k,4k,8k,16k -o night.study.jsonl\n"
      "  mileage measure night.toml --builds before=build-a/night,after=build-b/night -o change.study.jsonl\n",
      [options, &catalogue] { return measure(*options, catalogue); }, &options->origins);
  add_measure_options(verb, *options);
  add_json(verb, options->json);
}

}  // namespace mileage
