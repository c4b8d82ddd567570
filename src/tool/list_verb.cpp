#include <algorithm>
#include <map>
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
#include "views/terminal.h"
#include "views/words.h"

namespace mileage {
namespace {

struct ListOptions {
  std::string scenario;
  std::string program;
  bool json = false;
};

std::string default_text(const Knob& knob) { return text_of(knob.default_value); }

std::string accepted_text(const Knob& knob) {
  if (!knob.numeric()) return fmt::format("{}", fmt::join(knob.choices, ", "));
  return fmt::format("{} to {}{}{}", text_of(KnobValue(knob.min)), text_of(KnobValue(knob.max)),
                     knob.unit.empty() ? "" : " ", knob.unit);
}

/// "mirrored" of "mirrored-jobs".
std::string family(const std::string& variant) { return variant.substr(0, variant.find('-')); }

/// Complete families as "mirrored*".
std::string affects_text(const std::vector<std::string>& affects, const Scenario& scenario) {
  std::map<std::string, std::size_t> of_family, affected_of_family;
  for (const VariantFacts& variant : scenario.variants) ++of_family[family(variant.name)];
  for (const std::string& name : affects) ++affected_of_family[family(name)];
  std::vector<std::string> texts;
  for (const std::string& name : affects) {
    const std::string own = family(name);
    const bool is_whole = of_family[own] > 1 && of_family[own] == affected_of_family[own];
    const std::string text = is_whole ? own + "*" : name;
    if (std::find(texts.begin(), texts.end(), text) == texts.end()) texts.push_back(text);
  }
  return fmt::format("{}", fmt::join(texts, ", "));
}

/// Variants with the same knob share a row.
class KnobRows {
 public:
  /// Empty `affects`: all.
  void add(const Knob& knob, const std::vector<std::string>& affects) {
    for (Row& row : rows_)
      if (row.name == knob.name && row.default_value == default_text(knob) && row.accepts == accepted_text(knob) &&
          row.meaning == knob.meaning) {
        row.affects.insert(row.affects.end(), affects.begin(), affects.end());
        return;
      }
    rows_.push_back({knob.name, default_text(knob), accepted_text(knob), affects, knob.meaning});
  }

  Table table(const Scenario& scenario) const {
    Table table(About(), "knobs", "",
                {{"knob", "knob", Format::text, "name"},
                 {"default", "default", Format::text, "default value"},
                 {"accepts", "accepts", Format::text, "accepted values"},
                 {"meaning", "meaning", Format::text, "meaning, and the variants that it affects"}});
    for (const Row& row : rows_)
      table.row({row.name, row.default_value, row.accepts,
                 row.meaning + (row.affects.empty() ? "" : "; affects " + affects_text(row.affects, scenario))});
    return table;
  }

 private:
  struct Row {
    std::string name, default_value, accepts;
    std::vector<std::string> affects;
    std::string meaning;
  };
  std::vector<Row> rows_;
};

Answer scenario_view(const Scenario& scenario) {
  Answer view;
  view.verdict = {scenario.name + ": " + scenario.note};
  Table variants(About(), "variants", "",
                 {{"variant", "variant", Format::text, "name"}, {"how", "how", Format::text, "how it does the work"}});
  KnobRows knobs;
  for (const Knob& knob : scenario.knobs) knobs.add(knob, knob.affects);
  std::string device;
  for (const VariantFacts& facts : scenario.variants) {
    variants.row(
        {facts.name, facts.unavailable.empty() ? facts.note : facts.note + " - not here: " + facts.unavailable});
    if (!facts.device.empty()) device = facts.device + (facts.software_device ? ", a software device" : "");
    for (const Knob& knob : facts.knobs) knobs.add(knob, {facts.name});
  }
  view.tables = {variants, knobs.table(scenario)};
  if (!device.empty()) view.note("graphics device: " + device);
  return view;
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
    for (const Scenario& scenario : scenarios) print(answer_text(scenario_view(scenario), false, columns_at_hand()));
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
  verb.comes_back("  objects  one heap object per lantern, virtual update that looks up the wind\n");
  add_json(verb, options->json);
}

}  // namespace mileage
