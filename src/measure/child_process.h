// One child process that is handed a line, answers with a line, and is then gone.
#pragma once

#include <filesystem>
#include <string>

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

}  // namespace mileage
