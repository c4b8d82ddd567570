#include "tool/command_line.h"

#include <sstream>

#include <CLI/CLI.hpp>
#include <fmt/format.h>
#include <fmt/ranges.h>

#include "tool/exit_codes.h"
#include "tool/output.h"
#include "types/error.h"
#include "types/notation.h"
#include "types/text.h"
#include "types/version.h"

namespace mileage {
namespace {

CLI::App& app_of(void* parser) { return *static_cast<CLI::App*>(parser); }

std::vector<std::string> verbs_of(const CLI::App& app) {
  std::vector<std::string> names;
  for (const CLI::App* verb : app.get_subcommands({})) names.push_back(verb->get_name());
  return names;
}

bool is_unknown_verb(const CLI::App& app, int argc, const char* const* argv) {
  if (argc < 2 || argv[1][0] == '-') return false;
  const std::vector<std::string> names = verbs_of(app);
  return std::find(names.begin(), names.end(), argv[1]) == names.end();
}

int refuse_verb(const CLI::App& app, const std::string& verb) {
  const std::vector<std::string> names = verbs_of(app);
  const std::string near = nearest_name(verb, names);
  print_message(fmt::format("no such verb; found \"{}\"; accepted: {}{}", verb, fmt::join(names, ", "),
                            near.empty() ? "" : fmt::format("; did you mean {}?", near)));
  return exit_usage;
}

/// Values have internal names; messages use the option of the verb: "counts" is --counts or --count.
Fault by_option(Fault fault, const CLI::App& verb) {
  const std::string name = fault.field.substr(0, fault.field.find(' '));
  for (const std::string& option : {"--" + name, "--" + singular(name)})
    if (verb.get_option_no_throw(option) != nullptr) {
      fault.field = option + fault.field.substr(name.size());
      break;
    }
  return fault;
}

Fault by_file(Fault fault, const Origin& origin) {
  fault.kind = FaultKind::bad_input;
  fault.file = origin.file;
  fault.line = origin.line;
  return fault;
}

bool printed(const std::string& text) {
  try {
    print(text);
    return true;
  } catch (const Error& error) {
    print_message(error.what());
    return false;
  }
}

}  // namespace

struct CommandLine::Parser {
  CLI::App app;
  int exit_code = exit_answered;
  std::map<const CLI::App*, const Origins*> origins;

  Fault by_origin(const Fault& fault) const {
    const auto verbs = app.get_subcommands();
    if (verbs.empty() || fault.kind != FaultKind::usage) return fault;
    if (const auto files = origins.find(verbs.front()); files != origins.end())
      if (const auto origin = files->second->find(fault.field); origin != files->second->end())
        return by_file(fault, origin->second);
    return by_option(fault, *verbs.front());
  }
};

void Verb::option(const char* name, std::string& into, const char* help) {
  CLI::Option* option = app_of(parser_).add_option(name, into, help);
  if (!into.empty()) option->capture_default_str();
}

void Verb::option(const char* name, std::vector<std::string>& into, const char* help) {
  app_of(parser_).add_option(name, into, help)->expected(1)->take_all();
}

void Verb::option(const char* name, int& into, int min, int max, const char* help) {
  app_of(parser_).add_option(name, into, help)->check(CLI::Range(min, max));
}

void Verb::flag(const char* name, bool& into, const char* help) { app_of(parser_).add_flag(name, into, help); }

void Verb::operand(const char* name, std::string& into, const char* help) {
  app_of(parser_).add_option(name, into, help);
}

void Verb::required_operand(const char* name, std::string& into, const char* help) {
  app_of(parser_).add_option(name, into, help)->required();
}

void Verb::operands_or_none(const char* name, std::vector<std::string>& into, const char* help) {
  app_of(parser_).add_option(name, into, help);
}

void Verb::operands(const char* name, std::vector<std::string>& into, const char* help) {
  app_of(parser_).add_option(name, into, help)->required();
}

void Verb::comes_back(const char* lines) {
  CLI::App& verb = app_of(parser_);
  verb.footer(verb.get_footer() + "\nPrints:\n" + lines);
}

CommandLine::CommandLine(const char* purpose, const char* overview) : parser_(std::make_unique<Parser>()) {
  parser_->app.description(purpose);
  parser_->app.footer(overview);
  parser_->app.set_version_flag("--version", std::string("mileage ") + version);
  parser_->app.require_subcommand(1);
}

CommandLine::~CommandLine() = default;

Verb CommandLine::add_verb(const char* name, const char* question, const char* examples, std::function<int()> action,
                           const Origins* origins) {
  CLI::App* verb = parser_->app.add_subcommand(name, question);
  verb->footer(std::string("Examples:\n") + examples);
  if (origins != nullptr) parser_->origins[verb] = origins;
  verb->callback([this, action = std::move(action)] { parser_->exit_code = action(); });
  return Verb(verb);
}

namespace {

std::vector<std::string> words_of(int argc, char** argv) {
  std::vector<std::string> words(argv, argv + argc);
  if (argc > 1 && words[1] == "help") {
    words.erase(words.begin() + 1);
    words.emplace_back("--help");
  }
  return words;
}

}  // namespace

int CommandLine::run(int argc, char** argv) {
  CLI::App& app = parser_->app;
  const std::vector<std::string> words = words_of(argc, argv);
  std::vector<const char*> pointers;
  for (const std::string& word : words) pointers.push_back(word.c_str());
  if (argc < 2) {
    print_message("no verb given; `mileage help` lists them, `mileage demo` shows all of it");
    return exit_usage;
  }
  if (is_unknown_verb(app, static_cast<int>(pointers.size()), pointers.data())) return refuse_verb(app, pointers[1]);
  try {
    app.parse(static_cast<int>(pointers.size()), pointers.data());
    return parser_->exit_code;
  } catch (const CLI::Success& help) {
    std::ostringstream text;
    const int code = app.exit(help, text, text);
    return printed(text.str()) ? code : exit_cannot_write;
  } catch (const CLI::ParseError& error) {
    print_message(std::string(error.what()) + "; see --help");
    return exit_usage;
  } catch (const Error& error) {
    const Fault fault = parser_->by_origin(error.fault());
    print_message(Error(fault).what());
    return exit_code_of(fault.kind);
  }
}

}  // namespace mileage
