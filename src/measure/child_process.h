// Child processes: one that is handed a line and answers with a line, and one that is run to its end.
#pragma once

#include <filesystem>
#include <map>
#include <string>
#include <vector>

namespace mileage {

/// How an exchange with a child ended.
struct Exchange {
  std::string answer;       ///< The line it wrote, without the line feed; empty when it wrote none.
  std::string last_words;   ///< The last line it wrote to standard error.
  std::string failure;      ///< Why there is no answer, in plain words; empty when there is one.
};

/// What a child may use.
struct Limits {
  double time_s = 10;
  double memory_bytes = 0;  ///< Of resident memory, looked at ten times a second; 0 means no limit.
};

/// Starts `program` as a visit process in a process group of its own, sends it `line`, and waits until it has answered
/// and ended. Beyond a limit the whole group is killed. Standard input is empty, standard output is thrown
/// away, standard error is read for its last line. Never throws.
Exchange ask_program(const std::filesystem::path& program, const std::string& line, const Limits& limits);

/// A program to be started as it stands: no shell is involved.
struct Command {
  std::vector<std::string> words;     ///< The program and its arguments. A name without a slash is looked for in PATH.
  std::filesystem::path directory;    ///< Where it runs, and what a relative name of a program starts from; empty for here.
  std::map<std::string, std::string> environment;  ///< On top of this process's own.
};

/// How a command ended.
struct Ended {
  std::string output;      ///< What it wrote to standard output; beyond 64 MiB the rest is thrown away.
  std::string last_words;  ///< The last three lines it wrote to standard error, or else to standard output, joined by " / ".
  std::string failure;     ///< Why it did not end well: "ended with exit code 3"; empty when it did.
  double peak_bytes = 0;   ///< Of resident memory.
};

/// Starts a command in a process group of its own and waits for its end. Beyond a limit the whole group is killed. Standard
/// input is empty. Never throws.
Ended run_command(const Command& command, const Limits& limits);

}  // namespace mileage
