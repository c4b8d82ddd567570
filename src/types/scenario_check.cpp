#include "types/scenario_check.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <set>

#include <fmt/format.h>
#include <fmt/ranges.h>

namespace mileage {
namespace {

constexpr const char* plain_names = "lower case letters, digits, dashes and underscores, at most 64";
/// Exact in a double.
constexpr double largest_whole = 1e15;

bool is_plain(unsigned char c) { return std::islower(c) != 0 || std::isdigit(c) != 0 || c == '-' || c == '_'; }

class Part {
 public:
  Part(std::string where, std::vector<Mistake>& into) : where_(std::move(where)), into_(&into) {}
  void wrong(const char* field, std::string problem, std::string found = {}, std::string accepted = {}) const {
    into_->push_back({where_, field, std::move(problem), std::move(found), std::move(accepted)});
  }

 private:
  std::string where_;
  std::vector<Mistake>* into_;
};

void check_numbers(const Knob& knob, const Part& part) {
  for (const auto& [field, number] : {std::pair{"min", knob.min}, {"max", knob.max}})
    if (!std::isfinite(number) || (knob.whole && std::fabs(number) > largest_whole))
      return part.wrong(field, "not a number that a knob may have", fmt::format("{}", number),
                        "a finite number; a whole one between -1e15 and 1e15");
  if (knob.min > knob.max)
    return part.wrong("min", "above max", fmt::format("{}", knob.min), fmt::format("at most {}", knob.max));
  const auto* default_value = std::get_if<double>(&knob.default_value);
  const std::string range =
      fmt::format("{} from {} to {}", knob.whole ? "a whole number" : "a number", knob.min, knob.max);
  if (default_value == nullptr)
    return part.wrong("default", "not a number", std::get<std::string>(knob.default_value), range);
  if (!(*default_value >= knob.min && *default_value <= knob.max))
    part.wrong("default", "outside its range", fmt::format("{}", *default_value), range);
  else if (knob.whole && *default_value != std::floor(*default_value))
    part.wrong("default", "not a whole number", fmt::format("{}", *default_value), range);
}

void check_choices(const Knob& knob, const Part& part) {
  const std::set<std::string> different(knob.choices.begin(), knob.choices.end());
  if (different.size() != knob.choices.size()) part.wrong("choices", "the same choice twice");
  if (different.count("") > 0) part.wrong("choices", "an empty choice");
  const auto* default_value = std::get_if<std::string>(&knob.default_value);
  if (default_value == nullptr || different.count(*default_value) == 0)
    part.wrong("default", "none of its choices", default_value != nullptr ? *default_value : "a number",
               fmt::format("{}", fmt::join(knob.choices, ", ")));
  if (knob.splits_count) part.wrong("splits-count", "a knob with named choices cannot split the count");
}

void check_knobs(const std::vector<Knob>& knobs, const std::vector<Knob>& others, std::vector<Mistake>& mistakes) {
  const auto named = [](const std::vector<Knob>& all, const std::string& name) {
    return std::count_if(all.begin(), all.end(), [&](const Knob& knob) { return knob.name == name; });
  };
  for (const Knob& knob : knobs) {
    const Part part("knob." + knob.name, mistakes);
    if (!is_plain_name(knob.name)) part.wrong("name", "not a plain name", knob.name, plain_names);
    if (named(knobs, knob.name) > 1) part.wrong("name", "two knobs of that name");
    if (named(others, knob.name) > 0) part.wrong("name", "a knob of the scenario has that name already");
    knob.numeric() ? check_numbers(knob, part) : check_choices(knob, part);
  }
}

}  // namespace

bool is_plain_name(const std::string& name) {
  return !name.empty() && name.size() <= longest_name && std::all_of(name.begin(), name.end(), is_plain);
}

std::string plain_name(const std::string& text) {
  std::string name;
  for (const char c : text) {
    const auto lower = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    if (is_plain(static_cast<unsigned char>(lower)))
      name += lower;
    else if (!name.empty() && name.back() != '-')
      name += '-';
  }
  name.resize(std::min(name.size(), longest_name));
  while (!name.empty() && name.back() == '-') name.pop_back();
  return name.empty() ? "scenario" : name;
}

std::string Mistake::text() const {
  std::string text = where.empty() ? "" : where + ": ";
  text += fmt::format("{}: {}", field, problem);
  if (!found.empty()) text += "; found " + found;
  return accepted.empty() ? text : text + "; accepted: " + accepted;
}

std::vector<Mistake> mistakes_in_work(const Scenario& scenario) {
  std::vector<Mistake> mistakes;
  const Part part("", mistakes);
  if (!is_plain_name(scenario.name)) part.wrong("scenario", "not a plain name", scenario.name, plain_names);
  if (!(scenario.step_s > 0) || !std::isfinite(scenario.step_s))
    part.wrong("step_s", "not a time above zero", fmt::format("{}", scenario.step_s));
  for (const auto& [field, words] : {std::pair{"entities", &scenario.entities}, {"entity", &scenario.entity}})
    if (words->size() > longest_name) part.wrong(field, "too long", "", fmt::format("at most {} bytes", longest_name));
  if (scenario.entities.empty()) part.wrong("entities", "empty", "", "what is counted, in the plural");
  if (scenario.knobs.size() > max_knobs)
    part.wrong("knob", "too many knobs", fmt::format("{}", scenario.knobs.size()),
               fmt::format("at most {}", max_knobs));
  check_knobs(scenario.knobs, {}, mistakes);
  return mistakes;
}

std::vector<Mistake> mistakes_in_variant(const VariantFacts& facts, const Scenario& scenario) {
  std::vector<Mistake> mistakes;
  if (!is_plain_name(facts.name))
    Part("variant." + facts.name, mistakes).wrong("name", "not a plain name", facts.name, plain_names);
  check_knobs(facts.knobs, scenario.knobs, mistakes);
  return mistakes;
}

std::vector<Mistake> mistakes_in(const Scenario& scenario) {
  std::vector<Mistake> mistakes = mistakes_in_work(scenario);
  const Part part("", mistakes);
  if (scenario.variants.size() > max_variants) {
    part.wrong("variant", "too many variants", fmt::format("{}", scenario.variants.size()),
               fmt::format("at most {}", max_variants));
    return mistakes;
  }
  std::set<std::string> names;
  for (const VariantFacts& facts : scenario.variants) {
    if (!names.insert(facts.name).second)
      Part("variant." + facts.name, mistakes).wrong("name", "two variants of that name");
    for (Mistake& one : mistakes_in_variant(facts, scenario)) mistakes.push_back(std::move(one));
  }
  for (const Knob& knob : scenario.knobs)
    for (const std::string& touched : knob.affects)
      if (names.count(touched) == 0)
        Part("knob." + knob.name, mistakes)
            .wrong("affects", "no such variant", touched, fmt::format("{}", fmt::join(names, ", ")));
  if (!scenario.reference.empty() && names.count(scenario.reference) == 0)
    part.wrong("reference", "no such variant", scenario.reference, fmt::format("{}", fmt::join(names, ", ")));
  return mistakes;
}

}  // namespace mileage
