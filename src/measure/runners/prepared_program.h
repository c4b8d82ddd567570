// A program that loads for long: one process of it prepares once, and every visit is made by a copy of that process.
#pragma once

#include <filesystem>
#include <functional>
#include <memory>
#include <string>

namespace mileage {

/// What a program answers to a line of the visit protocol, or why it does not.
struct ProgramAnswer {
  std::string line;
  std::string failure;  ///< Empty where there is a line.
  int left_behind = 0;  ///< Processes that it had left and that were ended.
};

/// The side of who asks. The process is started with the first question, and again after one that ran out of time or
/// ended it; it goes with this object.
class PreparedProgram {
 public:
  /// A copy whose resident memory exceeds `memory_limit_bytes` is ended; 0 means no limit.
  PreparedProgram(std::filesystem::path program, double memory_limit_bytes);
  ~PreparedProgram();
  PreparedProgram(const PreparedProgram&) = delete;
  PreparedProgram& operator=(const PreparedProgram&) = delete;

  /// Has a copy answer a line about a scenario, within the limit; preparing counts for no limit but its own, ten
  /// minutes. Throws Stopped when this process is asked to stop meanwhile.
  ProgramAnswer ask(const std::string& scenario, const std::string& line, double limit_s);

 private:
  class Process;
  std::filesystem::path program_;
  double memory_limit_bytes_;
  std::string scenario_;  ///< That the process is prepared for.
  std::unique_ptr<Process> process_;
};

/// The side of the program. Reads lines from a descriptor: the first says what to prepare, and has `prepare` do so;
/// every later one is answered by a forked copy of this process, which ends all the same when it takes too much memory,
/// and when nobody listens any more. A copy that ends without its answer becomes a refusal that says why. Returns when
/// nobody asks any more.
void serve_prepared(int descriptor, const std::function<void(const std::string& scenario)>& prepare,
                    const std::function<std::string(const std::string& line)>& answer);

}  // namespace mileage
