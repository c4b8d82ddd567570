#include "mileage/types/catalogue.h"

#include <algorithm>
#include <utility>

#include <fmt/format.h>

#include "types/scenario_check.h"

namespace mileage {
namespace {

template <class Named>
const Named* find_named(const std::vector<Named>& all, std::string_view name) {
  const auto found = std::find_if(all.begin(), all.end(), [&](const Named& one) { return one.name == name; });
  return found == all.end() ? nullptr : &*found;
}

}  // namespace

const VariantFacts* Scenario::find(std::string_view variant) const { return find_named(variants, variant); }

void Catalogue::add(Scenario scenario) {
  const std::string where = fmt::format("scenario \"{}\"", scenario.name);
  for (const Mistake& mistake : mistakes_in_work(scenario)) mistakes_.push_back(where + ": " + mistake.text());
  if (find(scenario.name) != nullptr) mistakes_.push_back(where + " is added twice");
  scenario.variants.clear();
  scenario.prepares = false;
  scenarios_.push_back(std::move(scenario));
}

void Catalogue::add_variant(std::string_view scenario, VariantFacts facts, Factory factory,
                            AvailabilityCheck check_availability, Starter starter) {
  const std::string where = fmt::format("variant \"{}\" of \"{}\"", facts.name, scenario);
  const auto home =
      std::find_if(scenarios_.begin(), scenarios_.end(), [&](const Scenario& s) { return s.name == scenario; });
  if (home == scenarios_.end()) {
    mistakes_.push_back(where + ": there is no such scenario");
    return;
  }
  for (const Mistake& mistake : mistakes_in_variant(facts, *home)) mistakes_.push_back(where + ": " + mistake.text());
  if (home->find(facts.name) != nullptr) mistakes_.push_back(where + " is added twice");
  if (!factory && facts.unavailable.empty()) mistakes_.push_back(where + " has no factory");
  recipes_.push_back(
      {std::string(scenario), facts.name, std::move(factory), std::move(check_availability), std::move(starter)});
  home->variants.push_back(std::move(facts));
}

void Catalogue::prepare(std::string_view scenario, Preparation preparation) {
  const auto home =
      std::find_if(scenarios_.begin(), scenarios_.end(), [&](const Scenario& s) { return s.name == scenario; });
  const std::string where = fmt::format("what \"{}\" prepares", scenario);
  if (home == scenarios_.end())
    mistakes_.push_back(where + ": there is no such scenario");
  else if (!preparation)
    mistakes_.push_back(where + " is no function");
  else if (home->prepares)
    mistakes_.push_back(where + " is given twice");
  else {
    home->prepares = true;
    preparations_.emplace_back(scenario, std::move(preparation));
  }
}

const Preparation* Catalogue::preparation(std::string_view scenario) const {
  for (const auto& [name, preparation] : preparations_)
    if (name == scenario) return &preparation;
  return nullptr;
}

std::vector<Scenario> Catalogue::scenarios_here() const {
  std::vector<Scenario> here = scenarios_;
  for (Scenario& scenario : here)
    for (VariantFacts& facts : scenario.variants)
      for (const Recipe& recipe : recipes_)
        if (recipe.scenario == scenario.name && recipe.variant == facts.name && recipe.check_availability)
          recipe.check_availability(facts);
  return here;
}

const Scenario* Catalogue::find(std::string_view scenario) const { return find_named(scenarios_, scenario); }

const Factory* Catalogue::factory(std::string_view scenario, std::string_view variant) const {
  for (const Recipe& recipe : recipes_)
    if (recipe.scenario == scenario && recipe.variant == variant && recipe.factory) return &recipe.factory;
  return nullptr;
}

const Starter* Catalogue::starter(std::string_view scenario, std::string_view variant) const {
  for (const Recipe& recipe : recipes_)
    if (recipe.scenario == scenario && recipe.variant == variant && recipe.starter) return &recipe.starter;
  return nullptr;
}

}  // namespace mileage
