// The command line: verbs with options, help with examples, and exit codes. The only place that knows the package which
// parses arguments.
#pragma once

#include <functional>
#include <map>
#include <memory>
#include <string>
#include <vector>

namespace mileage {

/// Where a value stands that a file gave.
struct Origin {
  std::string file;
  int line = 0;  ///< Counted from 1.
};

/// Of the values that files gave, by their names inside: "counts", "knob scatter". All others are from the command
/// line.
using Origins = std::map<std::string, Origin>;

/// One verb while its options are being declared. References given to it must outlive the parsing.
class Verb {
 public:
  /// A text option; what `into` holds already is shown as the default.
  void option(const char* name, std::string& into, const char* help);
  /// An option that may be given several times.
  void option(const char* name, std::vector<std::string>& into, const char* help);
  /// A whole number from `least` to `most`.
  void option(const char* name, int& into, int min, int max, const char* help);
  void flag(const char* name, bool& into, const char* help);
  /// A name without a dash that may be excluded.
  void operand(const char* name, std::string& into, const char* help);
  void required_operand(const char* name, std::string& into, const char* help);
  /// Names without a dash that may be excluded.
  void operands_or_none(const char* name, std::vector<std::string>& into, const char* help);
  /// Names without a dash; at least one is required.
  void operands(const char* name, std::vector<std::string>& into, const char* help);

  /// Shows in the help a few lines of an answer.
  void comes_back(const char* lines);

  /// For command_line.cpp alone.
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

  /// Adds a verb that answers `question`; `examples` holds one command a line. `action` runs after the arguments have
  /// been parsed and returns the exit code; it may throw Error. An Error (usage) is known by where its value came from:
  /// by the option, or by file and line of `origins`, which must outlive run() and may be filled by the action.
  Verb add_verb(const char* name, const char* question, const char* examples, std::function<int()> action,
                const Origins* origins = nullptr);

  /// Parses the arguments and runs the verb. Mistakes in them are known on standard error, with the nearest known verb.
  /// Returns the exit code.
  int run(int argc, char** argv);

 private:
  struct Parser;
  std::unique_ptr<Parser> parser_;
};

}  // namespace mileage
