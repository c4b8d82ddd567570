#include "tool/plan_file.h"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <functional>
#include <map>

#include <fmt/format.h>
#include <fmt/ranges.h>
#include <toml++/toml.h>

#include "system/files.h"
#include "tool/own_commands.h"
#include "tool/plan_text.h"
#include "types/error.h"
#include "types/notation.h"

namespace mileage {
namespace {

class PlanReader {
 public:
  PlanReader(std::string file, MeasureOptions& options) : file_(std::move(file)), options_(&options) {}

  void read(const toml::table& plan) {
    const std::map<std::string, std::string*> texts = text_keys();
    const std::map<std::string, int*> numbers{{"points", &options_->points},
                                              {"blocks", &options_->blocks},
                                              {"frames", &options_->frames},
                                              {"trace", &options_->trace}};
    for (const auto& [key, value] : plan) {
      const std::string name(key.str());
      const auto line = static_cast<int>(value.source().begin.line);
      if (const auto text = texts.find(name); text != texts.end()) {
        if (!text->second->empty()) continue;
        *text->second = list_of(name, value);
        options_->origins[name] = {file_, line};
      } else if (const auto number = numbers.find(name); number != numbers.end()) {
        if (*number->second != 0) continue;
        *number->second = whole_of(name, value);
        options_->origins[name] = {file_, line};
      } else if (name == "no-refine") {
        options_->no_refine = options_->no_refine || truth_of(name, value);
      } else if (name == "knobs") {
        read_knobs(value);
      } else if (!is_own_command_key(name, value)) {
        refuse_key(name, key.source().begin.line, texts, numbers);
      }
    }
  }

 private:
  std::map<std::string, std::string*> text_keys() const {
    return {{"scenario", &options_->scenario},
            {"variants", &options_->variants},
            {"counts", &options_->counts},
            {"cold", &options_->cold},
            {"budget", &options_->budget},
            {"precision", &options_->precision},
            {"for", &options_->goal},
            {"time", &options_->time},
            {"seed", &options_->seed},
            {"arrive", &options_->arrive},
            {"without", &options_->without},
            {"output", &options_->output},
            {"program", &options_->program},
            {"builds", &options_->builds},
            {"memory-limit", &options_->memory_limit}};
  }

  [[noreturn]] void refuse(const std::string& key, const toml::node& value, const char* accepted) const {
    throw Error({.file = file_,
                 .line = static_cast<int>(value.source().begin.line),
                 .field = key,
                 .problem = "the value has the wrong type",
                 .accepted = accepted});
  }

  template <class Texts, class Numbers>
  [[noreturn]] void refuse_key(const std::string& name, std::size_t line, const Texts& texts,
                               const Numbers& numbers) const {
    std::vector<std::string> known{"no-refine", "knobs"};
    for (const auto& [key, into] : texts) known.push_back(key);
    for (const auto& [key, into] : numbers) known.push_back(key);
    for (const char* own : {"variant", "command", "expect", "knob", "entities", "entity", "note", "reference"})
      known.emplace_back(own);
    std::erase(known, name);  // A table name given as text.
    const std::string near = nearest_name(name, known);
    throw Error({.file = file_,
                 .line = static_cast<int>(line),
                 .field = name,
                 .problem = "no such key in a plan",
                 .found = name,
                 .accepted = near.empty() ? fmt::format("{}", fmt::join(known, ", ")) : near});
  }

  /// Text, number or list, comma-separated.
  std::string list_of(const std::string& key, const toml::node& value) const {
    if (const toml::array* list = value.as_array()) {
      std::vector<std::string> parts;
      for (const toml::node& part : *list) parts.push_back(text_of(key, part));
      if (parts.empty()) refuse(key, value, "at least one value");
      return fmt::format("{}", fmt::join(parts, ","));
    }
    return text_of(key, value);
  }

  std::string text_of(const std::string& key, const toml::node& value) const {
    if (const auto* text = value.as_string()) return text->get();
    if (const auto* whole = value.as_integer()) return fmt::format("{}", whole->get());
    if (const auto* number = value.as_floating_point(); number != nullptr && std::isfinite(number->get()))
      return fmt::format("{}", number->get());
    refuse(key, value, "a text or a number, or a list of them");
  }

  int whole_of(const std::string& key, const toml::node& value) const {
    const auto* whole = value.as_integer();
    if (whole == nullptr || whole->get() < 1 || whole->get() > 100'000)
      refuse(key, value, "a whole number from 1 to 100,000");
    return static_cast<int>(whole->get());
  }

  bool truth_of(const std::string& key, const toml::node& value) const {
    const auto* truth = value.as_boolean();
    if (truth == nullptr) refuse(key, value, "true or false");
    return truth->get();
  }

  void read_knobs(const toml::node& value) {
    const toml::table* knobs = value.as_table();
    if (knobs == nullptr) refuse("knobs", value, "a table: [knobs]");
    for (const auto& [key, values] : *knobs) {
      const std::string name(key.str());
      const bool was_given = std::any_of(options_->knobs.begin(), options_->knobs.end(),
                                         [&](const std::string& given) { return given.rfind(name + "=", 0) == 0; });
      if (was_given) continue;
      options_->knobs.push_back(name + "=" + list_of(name, values));
      options_->origins["knob " + name] = {file_, static_cast<int>(values.source().begin.line)};
    }
  }

  std::string file_;
  MeasureOptions* options_;
};

/// Unless values were given.
void measure_all_choices(const OwnCommands& own, MeasureOptions& options) {
  for (const Knob& knob : own.compared) {
    const bool was_given = std::any_of(options.knobs.begin(), options.knobs.end(),
                                       [&](const std::string& given) { return given.rfind(knob.name + "=", 0) == 0; });
    if (!was_given && !knob.numeric())
      options.knobs.push_back(fmt::format("{}={}", knob.name, fmt::join(knob.choices, ",")));
  }
}

/// FNV-1a, 64 bits (Fowler, Noll and Vo 1991).
std::string fingerprint_of(const std::string& text) {
  std::uint64_t print = 14695981039346656037ULL;
  for (const char c : text) print = (print ^ static_cast<unsigned char>(c)) * 1099511628211ULL;
  return fmt::format("{:016x}", print);
}

}  // namespace

void read_plan_file(const std::filesystem::path& file, MeasureOptions& options) {
  read_plan_text(read_regular_file(file, max_plan_bytes), file, options);
}

void read_plan_text(const std::string& text, const std::filesystem::path& file, MeasureOptions& options) {
  const toml::table plan = parsed_plan(text, file.string());
  PlanReader(file.string(), options).read(plan);
  options.own_commands = read_own_commands(plan, file, options.scenario, options.by_hand);
  if (!options.own_commands) return;
  options.plan_fingerprint = fingerprint_of(text);
  measure_all_choices(*options.own_commands, options);
}

}  // namespace mileage
