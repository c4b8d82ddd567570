#include <memory>

#include <fmt/format.h>
#include <fmt/ranges.h>
#include <nlohmann/json.hpp>

#include "measure/loop/plan.h"
#include "measure/runners/program_runner.h"
#include "tool/answer_options.h"
#include "tool/exit_codes.h"
#include "tool/output.h"
#include "tool/verbs.h"
#include "views/answer_json.h"
#include "views/text_table.h"
#include "views/words.h"

namespace mileage {
namespace {

struct ListOptions {
  std::string scenario;
  std::string program;
  bool json = false;
};

/// A number of a knob as it can be typed back in.
std::string number_text(const Knob& knob, double number) {
  return knob.whole ? count_text(number) : fmt::format("{}", number);
}

std::string preset_text(const Knob& knob) {
  const auto* number = std::get_if<double>(&knob.preset);
  return number != nullptr ? number_text(knob, *number) : std::get<std::string>(knob.preset);
}

std::string accepted_text(const Knob& knob) {
  if (!knob.numeric()) return fmt::format("{}", fmt::join(knob.choices, ", "));
  return fmt::format("{} to {}{}{}", number_text(knob, knob.least), number_text(knob, knob.most),
                     knob.unit.empty() ? "" : " ", knob.unit);
}

void add_knob_rows(TextTable& table, const std::vector<Knob>& knobs, const std::string& touches) {
  for (const Knob& knob : knobs)
    table.row({knob.name, preset_text(knob), accepted_text(knob),
               !touches.empty()       ? touches
               : knob.touches.empty() ? "all"
                                      : fmt::format("{}", fmt::join(knob.touches, ", ")),
               knob.meaning});
}

std::string scenario_text(const Scenario& scenario) {
  TextTable variants;
  variants.column("variant");
  variants.column("how");
  TextTable knobs;
  knobs.column("knob");
  knobs.column("preset");
  knobs.column("accepts");
  knobs.column("touches");
  knobs.column("meaning");
  add_knob_rows(knobs, scenario.knobs, "");
  std::string device;
  for (const VariantFacts& facts : scenario.variants) {
    variants.row(
        {facts.name, facts.unavailable.empty() ? facts.note : facts.note + " - not here: " + facts.unavailable});
    if (!facts.device.empty()) device = facts.device + (facts.software_device ? ", a software device" : "");
    add_knob_rows(knobs, facts.knobs, facts.name);
  }
  std::string text = fmt::format("{}: {}\n\n{}\n", scenario.name, scenario.note, variants.text());
  if (!device.empty()) text += fmt::format("graphics device: {}\n\n", device);
  return knobs.empty() ? text : text + knobs.text() + "\n";
}

Json scenarios_json(const std::vector<Scenario>& scenarios) {
  Json json = envelope("list");
  for (const Scenario& scenario : scenarios) rows_of(json, "scenarios").push_back(to_json(scenario));
  return json;
}

int list(const ListOptions& options, const Catalogue& catalogue) {
  std::vector<Scenario> scenarios =
      options.program.empty() ? catalogue.scenarios_here() : ProgramRunner(options.program).describe();
  if (!options.scenario.empty()) scenarios = {scenario_named(options.scenario, scenarios)};
  if (options.json)
    print(scenarios_json(scenarios));
  else
    for (const Scenario& scenario : scenarios) print(scenario_text(scenario));
  return exit_answered;
}

}  // namespace

void add_list_verb(CommandLine& line, const Catalogue& catalogue) {
  auto options = std::make_shared<ListOptions>();
  Verb verb = line.add_verb("list", "Which scenarios, variants and knobs are there",
                            "  mileage list\n  mileage list --scenario drift --json\n",
                            [options, &catalogue] { return list(*options, catalogue); });
  verb.option("--scenario", options->scenario, "only this scenario");
  verb.option("--program", options->program, "what another program offers instead of this one");
  add_json(verb, options->json);
}

}  // namespace mileage
