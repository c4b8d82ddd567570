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

std::string default_text(const Knob& knob) {
  const auto* number = std::get_if<double>(&knob.default_value);
  return number != nullptr ? number_text(knob, *number) : std::get<std::string>(knob.default_value);
}

std::string accepted_text(const Knob& knob) {
  if (!knob.numeric()) return fmt::format("{}", fmt::join(knob.choices, ", "));
  return fmt::format("{} to {}{}{}", number_text(knob, knob.min), number_text(knob, knob.max),
                     knob.unit.empty() ? "" : " ", knob.unit);
}

/// The first part of a variant's name: "mirrored" of "mirrored-jobs".
std::string family(const std::string& variant) { return variant.substr(0, variant.find('-')); }

/// Variants by name; a family that is there as a whole as "mirrored*".
std::string affects_text(const std::vector<std::string>& affects, const Scenario& scenario) {
  std::map<std::string, std::size_t> of_family, touched_of_family;
  for (const VariantFacts& variant : scenario.variants) ++of_family[family(variant.name)];
  for (const std::string& name : affects) ++touched_of_family[family(name)];
  std::vector<std::string> texts;
  for (const std::string& name : affects) {
    const std::string own = family(name);
    const bool is_whole = of_family[own] > 1 && of_family[own] == touched_of_family[own];
    const std::string text = is_whole ? own + "*" : name;
    if (std::find(texts.begin(), texts.end(), text) == texts.end()) texts.push_back(text);
  }
  return fmt::format("{}", fmt::join(texts, ", "));
}

/// Name, default, accepted values, meaning with the variants that it touches where that is not all of them. Variants
/// that declare the same knob share a row.
class KnobRows {
 public:
  /// `touches` empty: all of them.
  void add(const Knob& knob, const std::vector<std::string>& affects) {
    for (Row& row : rows_)
      if (row.name == knob.name && row.default_value == default_text(knob) && row.accepts == accepted_text(knob) &&
          row.meaning == knob.meaning) {
        row.affects.insert(row.affects.end(), affects.begin(), affects.end());
        return;
      }
    rows_.push_back({knob.name, default_text(knob), accepted_text(knob), affects, knob.meaning});
  }

  TextTable table(const Scenario& scenario) const {
    TextTable table;
    for (const char* heading : {"knob", "default", "accepts", "meaning"}) table.column(heading);
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

std::string scenario_text(const Scenario& scenario) {
  TextTable variants;
  variants.column("variant");
  variants.column("how");
  KnobRows knobs;
  for (const Knob& knob : scenario.knobs) knobs.add(knob, knob.affects);
  std::string device;
  for (const VariantFacts& facts : scenario.variants) {
    variants.row(
        {facts.name, facts.unavailable.empty() ? facts.note : facts.note + " - not here: " + facts.unavailable});
    if (!facts.device.empty()) device = facts.device + (facts.software_device ? ", a software device" : "");
    for (const Knob& knob : facts.knobs) knobs.add(knob, {facts.name});
  }
  std::string text = fmt::format("{}: {}\n\n{}\n", scenario.name, scenario.note, variants.text());
  if (!device.empty()) text += fmt::format("graphics device: {}\n\n", device);
  const TextTable table = knobs.table(scenario);
  return table.empty() ? text : text + table.text() + "\n";
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
  verb.comes_back("  objects  one heap object per lantern, virtual update that looks up the wind\n");
  add_json(verb, options->json);
}

}  // namespace mileage
