#include "tool/own_commands.h"

#include <algorithm>
#include <cctype>
#include <cmath>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "types/error.h"
#include "types/notation.h"
#include "types/scenario_check.h"

namespace mileage {
namespace {

constexpr double largest_number = 1e15;
/// Per entity.
constexpr double min_expected = 1e-9;
constexpr double max_frames = 1'000'000;
constexpr double max_lines = 1e9;

/// Values of a table, each read once; the rest is refused.
class Values {
 public:
  Values(const toml::node& node, std::string file, std::string name) : file_(std::move(file)), name_(std::move(name)) {
    if (node.as_table() == nullptr) refuse(name_, node, "a table: [" + name_ + "]");
    table_ = node.as_table();
  }

  std::string text(const char* key, std::string otherwise = {}) {
    const toml::node* node = find(key);
    if (node == nullptr) return otherwise;
    if (const auto* text = node->as_string()) return text->get();
    refuse(key, *node, "a text");
  }
  /// From `min` to `max`.
  double number(const char* key, double otherwise, double min, double max, bool whole = false) {
    const toml::node* node = find(key);
    if (node == nullptr) return otherwise;
    const auto number = node->value<double>();
    if (number && *number >= min && *number <= max && (!whole || *number == std::floor(*number))) return *number;
    const bool is_bounded = max < largest_number;
    refuse_value(key, *node, number ? "out of range" : "the value has the wrong type",
                 number ? fmt::format("{}", *number) : "",
                 fmt::format("{}{}", whole ? "a whole number" : "a number",
                             is_bounded ? fmt::format(" from {} to {}", min, max) : ""));
  }
  /// 0 if absent.
  double duration_s(const char* key) {
    const std::string written = text(key);
    try {
      return written.empty() ? 0 : parse_duration_s(written, key);
    } catch (const Error& error) {
      refuse_value(key, *table_->get(key), error.fault().problem, written, error.fault().accepted);
    }
  }
  bool truth(const char* key, bool otherwise) {
    const toml::node* node = find(key);
    if (node == nullptr) return otherwise;
    if (const auto* truth = node->as_boolean()) return truth->get();
    refuse(key, *node, "true or false");
  }
  std::vector<std::string> texts(const char* key) {
    const toml::node* node = find(key);
    std::vector<std::string> all;
    if (node == nullptr) return all;
    const toml::array* list = node->as_array();
    if (list == nullptr || list->empty()) refuse(key, *node, "a list of texts");
    for (const toml::node& part : *list) {
      if (part.as_string() == nullptr) refuse(key, part, "texts only");
      all.push_back(part.as_string()->get());
    }
    return all;
  }
  std::map<std::string, std::string> pairs(const char* key) {
    const toml::node* node = find(key);
    std::map<std::string, std::string> all;
    if (node == nullptr) return all;
    if (node->as_table() == nullptr) refuse(key, *node, "names with texts: { NAME = \"value\" }");
    for (const auto& [name, value] : *node->as_table()) {
      if (value.as_string() == nullptr) refuse(key, value, "texts only");
      all[std::string(name.str())] = value.as_string()->get();
    }
    return all;
  }
  int line_of(const char* key) const {
    const toml::node* node = table_->get(key);
    return static_cast<int>((node != nullptr ? node->source() : table_->source()).begin.line);
  }

  void refuse_others() const {
    for (const auto& [key, value] : *table_) {
      const std::string name(key.str());
      if (std::find(known_.begin(), known_.end(), name) != known_.end()) continue;
      const std::string near = nearest_name(name, known_);
      throw Error({.file = file_,
                   .line = static_cast<int>(key.source().begin.line),
                   .field = name,
                   .problem = fmt::format("no such key in [{}]", name_),
                   .found = name,
                   .accepted = near.empty() ? fmt::format("{}", fmt::join(known_, ", ")) : near});
    }
  }

 private:
  const toml::node* find(const char* key) {
    known_.emplace_back(key);
    return table_->get(key);
  }
  [[noreturn]] void refuse(const std::string& key, const toml::node& node, const std::string& accepted) const {
    throw Error({.file = file_,
                 .line = static_cast<int>(node.source().begin.line),
                 .field = key,
                 .problem = "the value has the wrong type",
                 .accepted = accepted});
  }

  [[noreturn]] void refuse_value(const std::string& key, const toml::node& node, const std::string& problem,
                                 const std::string& found, const std::string& accepted) const {
    throw Error({.file = file_,
                 .line = static_cast<int>(node.source().begin.line),
                 .field = key,
                 .problem = problem,
                 .found = found,
                 .accepted = accepted});
  }

  std::string file_;
  std::string name_;
  const toml::table* table_ = nullptr;
  std::vector<std::string> known_;
};

/// In file order.
std::vector<std::pair<std::string, const toml::node*>> tables_below(const toml::table& plan, const char* key) {
  std::vector<std::pair<std::string, const toml::node*>> all;
  if (plan.get(key) == nullptr || plan.get(key)->as_table() == nullptr) return all;
  for (const auto& [name, node] : *plan.get(key)->as_table()) all.emplace_back(std::string(name.str()), &node);
  std::sort(all.begin(), all.end(), [](const auto& a, const auto& b) {
    const auto place = [](const auto& one) {
      return std::pair(one.second->source().begin.line, one.second->source().begin.column);
    };
    return place(a) < place(b);
  });
  return all;
}

/// A condition, or a choice of all variants that it affects.
struct PlanKnob {
  Knob knob;
  bool is_compared = false;
};

PlanKnob knob_of(const std::string& name, Values values) {
  const std::string meaning = values.text("meaning");
  const std::vector<std::string> choices = values.texts("choices");
  const std::vector<std::string> affects = values.texts("affects");
  Knob knob;
  if (!choices.empty()) {
    knob = Knob::choice(name, meaning, choices);
  } else {
    const double default_value = values.number("default", 0, -largest_number, largest_number);
    knob = Knob::real(name, meaning,
                      {.default_value = default_value,
                       .min = values.number("min", 0, -largest_number, largest_number),
                       .max = values.number("max", largest_number, -largest_number, largest_number)});
    knob.whole = values.truth("whole", default_value == std::floor(default_value));
    knob.unit = values.text("unit");
  }
  knob.splits_count = values.truth("splits-count", false);
  const bool is_compared = values.truth("choice", false);
  values.refuse_others();
  return {affects.empty() ? knob : knob.affecting(affects), is_compared};
}

/// Other braces belong to the command.
std::vector<std::string> placeholders_in(const std::string& word) {
  const auto is_of_a_name = [](unsigned char c) { return std::isalpha(c) != 0 || c == '_' || c == '-'; };
  std::vector<std::string> names;
  for (auto open = word.find('{'); open != std::string::npos; open = word.find('{', open + 1)) {
    const auto close = std::find_if_not(word.begin() + static_cast<std::ptrdiff_t>(open) + 1, word.end(), is_of_a_name);
    const std::string name(word.begin() + static_cast<std::ptrdiff_t>(open) + 1, close);
    if (!name.empty() && close != word.end() && *close == '}') names.push_back(name);
  }
  return names;
}

void check_placeholders(const std::vector<std::string>& command, const OwnCommands& own, const std::string& file,
                        int line) {
  std::vector<std::string> known(std::begin(command_placeholders), std::end(command_placeholders));
  for (const std::vector<Knob>& knobs : {own.scenario.knobs, own.compared})
    for (const Knob& knob : knobs) known.push_back(knob.name);
  for (const std::string& word : command)
    for (const std::string& name : placeholders_in(word))
      if (std::find(known.begin(), known.end(), name) == known.end())
        throw Error({.file = file,
                     .line = line,
                     .field = "run",
                     .problem = "no such placeholder",
                     .found = "{" + name + "}",
                     .accepted = fmt::format("{{{}}}", fmt::join(known, "}, {"))});
}

/// Commands need a placeholder for the skipped phase.
void check_stubs(const std::vector<std::string>& command, const std::string& variant, const std::string& file,
                 int line) {
  const bool is_known = std::any_of(command.begin(), command.end(), [](const std::string& word) {
    return word.find("{without}") != std::string::npos;
  });
  if (is_known) return;
  throw Error({.file = file,
               .line = line,
               .field = "stubs",
               .problem = "the command lacks {without}",
               .found = variant,
               .accepted = "{without} among its arguments: the name of a phase, or nothing"});
}

std::vector<Expectation> expectations_of(const toml::table& plan, const std::string& file) {
  std::vector<Expectation> expects;
  const toml::node* node = plan.get("expect");
  if (node == nullptr) return expects;
  Values values(*node, file, "expect");
  for (const auto& [key, value] : *node->as_table()) {
    const std::string counter(key.str());
    expects.push_back({counter, values.number(counter.c_str(), 1, min_expected, largest_number)});
  }
  return expects;
}

/// All commands leave a picture or none.
void check_pictures(const OwnCommands& own, const std::string& file) {
  std::vector<std::string> with, without;
  for (const auto& [variant, words] : own.plan.words) {
    const bool has = std::any_of(words.begin(), words.end(),
                                 [](const std::string& word) { return word.find("{picture}") != std::string::npos; });
    (has ? with : without).push_back(variant);
  }
  if (with.empty() || without.empty()) return;
  throw Error(
      {.file = file,
       .field = "run",
       .problem = "some variants leave a picture, and others none",
       .found = fmt::format("{{picture}} in {}, and not in {}", fmt::join(with, ", "), fmt::join(without, ", ")),
       .accepted = "{picture} in all of them, or in none"});
}

CommandPlan command_of(const toml::table& plan, const std::filesystem::path& file) {
  CommandPlan command;
  const std::filesystem::path folder = std::filesystem::absolute(file).parent_path();
  command.directory = folder;
  if (plan.get("command") == nullptr) return command;
  Values values(*plan.get("command"), file.string(), "command");
  command.directory = folder / values.text("directory");
  command.environment = values.pairs("environment");
  command.time_limit_s = values.duration_s("time-limit");
  command.frames = static_cast<int>(values.number("frames", 0, 1, max_frames, true));
  command.tolerance = values.number("tolerance", command.tolerance, 0, 1);
  values.refuse_others();
  return command;
}

/// With the line of its part.
[[noreturn]] void refuse_mistake(const Mistake& mistake, const toml::table& plan, const std::string& file) {
  const auto at = [&](const std::string& key) { return plan.get(key); };
  const toml::node* node = mistake.where.empty() ? at(mistake.field) : nullptr;
  const auto dot = mistake.where.find('.');
  if (dot != std::string::npos && at(mistake.where.substr(0, dot)) != nullptr &&
      at(mistake.where.substr(0, dot))->as_table() != nullptr) {
    const std::string part = mistake.where.substr(dot + 1);
    node = at(mistake.where.substr(0, dot))->as_table()->get(part);
    if (node != nullptr && node->as_table() != nullptr && node->as_table()->get(mistake.field) != nullptr)
      node = node->as_table()->get(mistake.field);
  }
  throw Error({.file = file,
               .line = node != nullptr ? static_cast<int>(node->source().begin.line) : 0,
               .field = mistake.where.empty() ? mistake.field : mistake.where + ": " + mistake.field,
               .problem = mistake.problem,
               .found = mistake.found,
               .accepted = mistake.accepted});
}

}  // namespace

bool is_own_command_key(const std::string& name, const toml::node& value) {
  if (name == "variant" || name == "command" || name == "knob" || name == "expect") return value.is_table();
  return (name == "entities" || name == "entity" || name == "note" || name == "reference") && value.is_string();
}

std::optional<OwnCommands> read_own_commands(const toml::table& plan, const std::filesystem::path& file,
                                             const std::string& scenario, bool by_hand) {
  const auto variants = tables_below(plan, "variant");
  if (variants.empty()) {
    for (const char* key : {"command", "expect", "knob", "reference"})
      if (plan.get(key) != nullptr)
        throw Error({.file = file.string(),
                     .line = static_cast<int>(plan.get(key)->source().begin.line),
                     .field = key,
                     .problem = "says how variants are run, and the plan defines none",
                     .accepted = "a variant with its command: [variant.NAME]"});
    return std::nullopt;
  }
  if (variants.size() > max_variants)
    throw Error({.file = file.string(),
                 .field = "variant",
                 .problem = "too many variants",
                 .found = fmt::format("{}", variants.size()),
                 .accepted = fmt::format("at most {}", max_variants)});
  OwnCommands own;
  own.scenario.name = scenario.empty() ? plain_name(file.stem().string()) : scenario;
  own.scenario.note = plan["note"].value_or(std::string(by_hand ? "recorded by hand" : "measured by commands"));
  own.scenario.entities = plan["entities"].value_or(std::string("entities"));
  own.scenario.entity = plan["entity"].value_or(std::string());
  own.scenario.reference = plan["reference"].value_or(std::string());
  own.scenario.expects = expectations_of(plan, file.string());
  for (const auto& [name, node] : tables_below(plan, "knob"))
    if (auto [knob, is_compared] = knob_of(name, Values(*node, file.string(), "knob." + name)); is_compared)
      own.compared.push_back(std::move(knob));
    else
      own.scenario.knobs.push_back(std::move(knob));
  own.plan = command_of(plan, file);
  for (const auto& [name, node] : variants) {
    Values values(*node, file.string(), "variant." + name);
    VariantFacts facts;
    facts.name = name;
    facts.note = values.text("note");
    facts.approximate = values.truth("approximate", false);
    facts.may_skip = values.truth("may-skip", false);
    facts.effort = values.text("effort");
    facts.stubs = values.texts("stubs");
    facts.lines = static_cast<std::int64_t>(values.number("lines", 0, 0, max_lines, true));
    std::copy_if(own.compared.begin(), own.compared.end(), std::back_inserter(facts.knobs),
                 [&](const Knob& knob) { return knob.is_affecting(facts.name); });
    own.plan.words[name] = values.texts("run");
    const int line = values.line_of("run");
    values.refuse_others();
    if (own.plan.words[name].empty() && !by_hand)
      throw Error({.file = file.string(),
                   .line = line,
                   .field = "run",
                   .problem = "the variant has no command",
                   .found = name,
                   .accepted = R"(run = ["./game", "--count", "{count}", "--table", "{table}"])"});
    check_placeholders(own.plan.words[name], own, file.string(), line);
    if (!facts.stubs.empty() && !by_hand) check_stubs(own.plan.words[name], name, file.string(), line);
    own.scenario.variants.push_back(std::move(facts));
  }
  check_pictures(own, file.string());
  for (const Mistake& mistake : mistakes_in(own.scenario)) refuse_mistake(mistake, plan, file.string());
  return own;
}

}  // namespace mileage
