#include "mileage/types/catalogue.h"

#include <algorithm>
#include <cctype>
#include <utility>

#include <fmt/format.h>

namespace mileage {
namespace {

bool is_plain_name(const std::string& name) {
  const auto plain = [](unsigned char c) { return std::islower(c) || std::isdigit(c) || c == '-' || c == '_'; };
  return !name.empty() && std::all_of(name.begin(), name.end(), plain);
}

template <class Named>
const Named* find_named(const std::vector<Named>& all, std::string_view name) {
  const auto found = std::find_if(all.begin(), all.end(), [&](const Named& one) { return one.name == name; });
  return found == all.end() ? nullptr : &*found;
}

bool preset_fits(const Knob& knob) {
  if (!knob.numeric()) return std::holds_alternative<std::string>(knob.preset);
  const auto* preset = std::get_if<double>(&knob.preset);
  return preset != nullptr && *preset >= knob.least && *preset <= knob.most;
}

void check_knobs(const std::vector<Knob>& knobs, const std::string& where, std::vector<std::string>& mistakes) {
  for (std::size_t i = 0; i < knobs.size(); ++i) {
    if (!is_plain_name(knobs[i].name))
      mistakes.push_back(fmt::format("{}: a knob named \"{}\"; names are lower case without spaces", where, knobs[i].name));
    if (find_named(knobs, knobs[i].name) != &knobs[i])
      mistakes.push_back(fmt::format("{}: two knobs named \"{}\"", where, knobs[i].name));
    if (!preset_fits(knobs[i]))
      mistakes.push_back(fmt::format("{}: the preset of knob \"{}\" is outside its range", where, knobs[i].name));
  }
}

}  // namespace

const VariantFacts* Scenario::find(std::string_view variant) const { return find_named(variants, variant); }

void Catalogue::add(Scenario scenario) {
  const std::string where = fmt::format("scenario \"{}\"", scenario.name);
  if (!is_plain_name(scenario.name)) mistakes_.push_back(where + ": names are lower case without spaces");
  if (find(scenario.name) != nullptr) mistakes_.push_back(where + " is added twice");
  if (!(scenario.step_s > 0)) mistakes_.push_back(where + ": the time step must be above zero");
  check_knobs(scenario.knobs, where, mistakes_);
  scenario.variants.clear();
  scenarios_.push_back(std::move(scenario));
}

void Catalogue::add_variant(std::string_view scenario, VariantFacts facts, Factory factory, LookAround look_around) {
  const std::string where = fmt::format("variant \"{}\" of \"{}\"", facts.name, scenario);
  const auto home = std::find_if(scenarios_.begin(), scenarios_.end(), [&](const Scenario& s) { return s.name == scenario; });
  if (home == scenarios_.end()) {
    mistakes_.push_back(where + ": there is no such scenario");
    return;
  }
  if (!is_plain_name(facts.name)) mistakes_.push_back(where + ": names are lower case without spaces");
  if (home->find(facts.name) != nullptr) mistakes_.push_back(where + " is added twice");
  if (!factory && facts.unavailable.empty()) mistakes_.push_back(where + " has no factory");
  check_knobs(facts.knobs, where, mistakes_);
  for (const Knob& knob : facts.knobs)
    if (find_named(home->knobs, knob.name) != nullptr)
      mistakes_.push_back(fmt::format("{}: knob \"{}\" is a knob of the scenario already", where, knob.name));
  recipes_.push_back({std::string(scenario), facts.name, std::move(factory), std::move(look_around)});
  home->variants.push_back(std::move(facts));
}

std::vector<Scenario> Catalogue::scenarios_here() const {
  std::vector<Scenario> here = scenarios_;
  for (Scenario& scenario : here)
    for (VariantFacts& facts : scenario.variants)
      for (const Recipe& recipe : recipes_)
        if (recipe.scenario == scenario.name && recipe.variant == facts.name && recipe.look_around) recipe.look_around(facts);
  return here;
}

const Scenario* Catalogue::find(std::string_view scenario) const { return find_named(scenarios_, scenario); }

const Factory* Catalogue::factory(std::string_view scenario, std::string_view variant) const {
  for (const Recipe& recipe : recipes_)
    if (recipe.scenario == scenario && recipe.variant == variant && recipe.factory) return &recipe.factory;
  return nullptr;
}

}  // namespace mileage
