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
/// Beyond it whole numbers are no longer exact.
constexpr double largest_whole = 1e15;

bool is_plain(unsigned char c) { return std::islower(c) != 0 || std::isdigit(c) != 0 || c == '-' || c == '_'; }

/// Collects the mistakes of one part.
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
  for (const auto& [field, number] : {std::pair{"least", knob.least}, {"most", knob.most}})
    if (!std::isfinite(number) || (knob.whole && std::fabs(number) > largest_whole))
      return part.wrong(field, "not a number that a knob may have", fmt::format("{}", number),
                        "a finite number; a whole one between -1e15 and 1e15");
  if (knob.least > knob.most)
    return part.wrong("least", "above most", fmt::format("{}", knob.least), fmt::format("at most {}", knob.most));
  const auto* preset = std::get_if<double>(&knob.preset);
  const std::string range =
      fmt::format("{} from {} to {}", knob.whole ? "a whole number" : "a number", knob.least, knob.most);
  if (preset == nullptr) return part.wrong("preset", "not a number", std::get<std::string>(knob.preset), range);
  if (!(*preset >= knob.least && *preset <= knob.most))
    part.wrong("preset", "outside its range", fmt::format("{}", *preset), range);
  else if (knob.whole && *preset != std::floor(*preset))
    part.wrong("preset", "not a whole number", fmt::format("{}", *preset), range);
}

void check_choices(const Knob& knob, const Part& part) {
  const std::set<std::string> different(knob.choices.begin(), knob.choices.end());
  if (different.size() != knob.choices.size()) part.wrong("choices", "the same choice twice");
  if (different.count("") > 0) part.wrong("choices", "an empty choice");
  const auto* preset = std::get_if<std::string>(&knob.preset);
  if (preset == nullptr || different.count(*preset) == 0)
    part.wrong("preset", "none of its choices", preset != nullptr ? *preset : "a number",
               fmt::format("{}", fmt::join(knob.choices, ", ")));
  if (knob.divides) part.wrong("divides", "a knob of names divides nothing");
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
  if (scenario.knobs.size() > most_knobs)
    part.wrong("knob", "too many knobs", fmt::format("{}", scenario.knobs.size()),
               fmt::format("at most {}", most_knobs));
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
  if (scenario.variants.size() > most_variants) {
    part.wrong("variant", "too many variants", fmt::format("{}", scenario.variants.size()),
               fmt::format("at most {}", most_variants));
    return mistakes;
  }
  std::set<std::string> names;
  for (const VariantFacts& facts : scenario.variants) {
    if (!names.insert(facts.name).second)
      Part("variant." + facts.name, mistakes).wrong("name", "two variants of that name");
    for (Mistake& one : mistakes_in_variant(facts, scenario)) mistakes.push_back(std::move(one));
  }
  for (const Knob& knob : scenario.knobs)
    for (const std::string& touched : knob.touches)
      if (names.count(touched) == 0)
        Part("knob." + knob.name, mistakes)
            .wrong("touches", "no such variant", touched, fmt::format("{}", fmt::join(names, ", ")));
  if (!scenario.reference.empty() && names.count(scenario.reference) == 0)
    part.wrong("reference", "no such variant", scenario.reference, fmt::format("{}", fmt::join(names, ", ")));
  return mistakes;
}

}  // namespace mileage
