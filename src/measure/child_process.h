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

/// Starts `program` as a visit process in a process group of its own, sends it `line`, and waits until it has answered
/// and ended. After `limit_s` seconds the whole group is killed. Standard input is empty, standard output is thrown
/// away, standard error is read for its last line. Never throws.
Exchange ask_program(const std::filesystem::path& program, const std::string& line, double limit_s);

}  // namespace mileage
