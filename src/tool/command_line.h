// Verbs, options, help with examples, exit codes. The only user of the argument parser.
#pragma once

#include <functional>
#include <map>
#include <memory>
#include <string>
#include <vector>

namespace mileage {

/// Where a file set a value.
struct Origin {
  std::string file;
  int line = 0;  ///< From 1.
};

/// Of values from files, by internal name: "counts", "knob scatter".
using Origins = std::map<std::string, Origin>;

/// A verb being declared. References must outlive the parsing.
class Verb {
 public:
  /// `into` holds the default.
  void option(const char* name, std::string& into, const char* help);
  /// Repeatable.
  void option(const char* name, std::vector<std::string>& into, const char* help);
  /// From `min` to `max`.
  void option(const char* name, int& into, int min, int max, const char* help);
  void flag(const char* name, bool& into, const char* help);
  /// Optional, without a dash.
  void operand(const char* name, std::string& into, const char* help);
  void required_operand(const char* name, std::string& into, const char* help);
  /// Optional, without dashes.
  void operands_or_none(const char* name, std::vector<std::string>& into, const char* help);
  /// At least one.
  void operands(const char* name, std::vector<std::string>& into, const char* help);

  /// Example output in the help.
  void comes_back(const char* lines);

  /// For command_line.cpp only.
  explicit Verb(void* parser) : parser_(parser) {}

 private:
  void* parser_;
};

class CommandLine {
 public:
  CommandLine(const char* purpose, const char* overview);
  ~CommandLine();
  CommandLine(const CommandLine&) = delete;
  CommandLine& operator=(const CommandLine&) = delete;

  /// `examples`: one command per line. `action` returns the exit code and may throw Error; usage errors name the
  /// option, or file and line from `origins`, which the action may fill.
  Verb add_verb(const char* name, const char* question, const char* examples, std::function<int()> action,
                const Origins* origins = nullptr);

  /// Reports mistakes on standard error with the nearest verb. Returns the exit code.
  int run(int argc, char** argv);

 private:
  struct Parser;
  std::unique_ptr<Parser> parser_;
};

}  // namespace mileage
