#include "tool/own_commands.h"

#include <algorithm>
#include <cmath>
#include <regex>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "types/error.h"
#include "types/notation.h"

namespace mileage {
namespace {

/// Values of one table of the plan, each read once; what is left over is refused.
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
  double number(const char* key, double otherwise) {
    const toml::node* node = find(key);
    if (node == nullptr) return otherwise;
    if (const auto number = node->value<double>()) return *number;
    refuse(key, *node, "a number");
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
      throw Error({.file = file_, .line = static_cast<int>(key.source().begin.line), .field = name, .problem = fmt::format("no such key in [{}]", name_),
                   .found = name, .accepted = near.empty() ? fmt::format("{}", fmt::join(known_, ", ")) : near});
    }
  }

 private:
  const toml::node* find(const char* key) {
    known_.emplace_back(key);
    return table_->get(key);
  }
  [[noreturn]] void refuse(const std::string& key, const toml::node& node, const std::string& accepted) const {
    throw Error({.file = file_, .line = static_cast<int>(node.source().begin.line), .field = key, .problem = "the value has the wrong type", .accepted = accepted});
  }

  std::string file_;
  std::string name_;
  const toml::table* table_ = nullptr;
  std::vector<std::string> known_;
};

/// Tables below a key, in the order in which they stand in the file.
std::vector<std::pair<std::string, const toml::node*>> tables_below(const toml::table& plan, const char* key) {
  std::vector<std::pair<std::string, const toml::node*>> all;
  if (plan.get(key) == nullptr || plan.get(key)->as_table() == nullptr) return all;
  for (const auto& [name, node] : *plan.get(key)->as_table()) all.emplace_back(std::string(name.str()), &node);
  std::sort(all.begin(), all.end(), [](const auto& a, const auto& b) {
    const auto place = [](const auto& one) { return std::pair(one.second->source().begin.line, one.second->source().begin.column); };
    return place(a) < place(b);
  });
  return all;
}

Knob knob_of(const std::string& name, Values values) {
  const std::string meaning = values.text("meaning");
  const std::vector<std::string> choices = values.texts("choices");
  const std::vector<std::string> touches = values.texts("touches");
  Knob knob;
  if (!choices.empty()) {
    knob = Knob::choice(name, meaning, choices);
  } else {
    const double preset = values.number("preset", 0);
    knob = Knob::real(name, meaning, preset, values.number("least", 0), values.number("most", 1e15));
    knob.whole = values.truth("whole", preset == std::floor(preset));
    knob.unit = values.text("unit");
  }
  knob.divides = values.truth("divides", false);
  values.refuse_others();
  return touches.empty() ? knob : knob.touching(touches);
}

void check_placeholders(const std::vector<std::string>& words, const Scenario& scenario, const std::string& file, int line) {
  std::vector<std::string> known(std::begin(command_placeholders), std::end(command_placeholders));
  for (const Knob& knob : scenario.knobs) known.push_back(knob.name);
  static const std::regex placeholder(R"(\{([A-Za-z_-]+)\})");
  for (const std::string& word : words)
    for (std::sregex_iterator at(word.begin(), word.end(), placeholder), end; at != end; ++at)
      if (std::find(known.begin(), known.end(), (*at)[1].str()) == known.end())
        throw Error({.file = file, .line = line, .field = "run", .problem = "no such placeholder", .found = (*at)[0].str(), .accepted = fmt::format("{{{}}}", fmt::join(known, "}, {"))});
}

CommandPlan command_of(const toml::table& plan, const std::filesystem::path& file) {
  CommandPlan command;
  const std::filesystem::path folder = std::filesystem::absolute(file).parent_path();
  command.directory = folder;
  if (plan.get("command") == nullptr) return command;
  Values values(*plan.get("command"), file.string(), "command");
  command.directory = folder / values.text("directory");
  command.environment = values.pairs("environment");
  if (const std::string limit = values.text("time-limit"); !limit.empty()) command.time_limit_s = parse_duration_s(limit, "time-limit");
  command.frames = static_cast<int>(values.number("frames", 0));
  command.tolerance = values.number("tolerance", command.tolerance);
  values.refuse_others();
  return command;
}

}  // namespace

bool is_own_command_key(const std::string& name, const toml::node& value) {
  if (name == "variant" || name == "command" || name == "knob") return value.is_table();
  return (name == "entities" || name == "note" || name == "reference") && value.is_string();
}

std::optional<OwnCommands> read_own_commands(const toml::table& plan, const std::filesystem::path& file, const std::string& scenario, bool by_hand) {
  const auto variants = tables_below(plan, "variant");
  if (variants.empty()) {
    for (const char* key : {"command", "knob", "reference"})
      if (plan.get(key) != nullptr)
        throw Error({.file = file.string(), .line = static_cast<int>(plan.get(key)->source().begin.line), .field = key,
                     .problem = "says how variants are run, and the plan defines none", .accepted = "a variant with its command: [variant.NAME]"});
    return std::nullopt;
  }
  OwnCommands own;
  own.scenario.name = scenario.empty() ? file.stem().string() : scenario;
  own.scenario.note = plan["note"].value_or(std::string(by_hand ? "recorded by hand" : "measured by commands"));
  own.scenario.entities = plan["entities"].value_or(std::string("entities"));
  own.scenario.reference = plan["reference"].value_or(std::string());
  for (const auto& [name, node] : tables_below(plan, "knob")) own.scenario.knobs.push_back(knob_of(name, Values(*node, file.string(), "knob." + name)));
  own.plan = command_of(plan, file);
  for (const auto& [name, node] : variants) {
    Values values(*node, file.string(), "variant." + name);
    VariantFacts facts;
    facts.name = name;
    facts.note = values.text("note");
    facts.approximate = values.truth("approximate", false);
    facts.may_skip = values.truth("may-skip", false);
    own.plan.words[name] = values.texts("run");
    const int line = values.line_of("run");
    values.refuse_others();
    if (own.plan.words[name].empty() && !by_hand)
      throw Error({.file = file.string(), .line = line, .field = "run", .problem = "the variant has no command", .found = name,
                   .accepted = R"(run = ["./game", "--count", "{count}", "--table", "{table}"])"});
    check_placeholders(own.plan.words[name], own.scenario, file.string(), line);
    own.scenario.variants.push_back(std::move(facts));
  }
  if (!own.scenario.reference.empty() && own.scenario.find(own.scenario.reference) == nullptr)
    throw Error({.file = file.string(), .field = "reference", .problem = "no such variant in the plan", .found = own.scenario.reference});
  return own;
}

}  // namespace mileage
