// A program that loads for long: one process of it prepares once, and every run is made by a copy of that process.
#pragma once

#include <filesystem>
#include <functional>
#include <map>
#include <memory>
#include <string>

namespace mileage {

/// What a program answers to a line of the run protocol, or why it does not.
struct ProgramAnswer {
  std::string line;
  std::string failure;  ///< Empty where there is a line.
  int left_behind = 0;  ///< Processes that it had left and that were ended.
};

/// What a program may use.
struct ProgramLimits {
  double memory_bytes = 0;   ///< Resident memory of a run with all that it starts; 0 means no limit.
  double preparing_s = 600;  ///< Of a scenario that prepares: for loading, once.
};

/// The side of who asks. The process is started with the first question, and again after one that ran out of time or
/// ended it; it goes with this object.
class PreparedProgram {
 public:
  PreparedProgram(std::filesystem::path program, const ProgramLimits& limits);
  ~PreparedProgram();
  PreparedProgram(const PreparedProgram&) = delete;
  PreparedProgram& operator=(const PreparedProgram&) = delete;

  /// Has a copy answer a line about a scenario, within `limit_s`; preparing has a limit of its own. A scenario that
  /// could not be prepared is not tried again. Throws Stopped when this process is asked to stop.
  ProgramAnswer ask(const std::string& scenario, const std::string& line, double limit_s);

 private:
  class Process;
  std::string prepare(const std::string& scenario);
  ProgramAnswer hear(double seconds, const std::string& who);

  std::filesystem::path program_;
  ProgramLimits limits_;
  std::map<std::string, std::string> unprepared_;  ///< Why, by scenario.
  std::string scenario_;                           ///< That the process is prepared for.
  std::unique_ptr<Process> process_;
};

/// The side of the program. Reads lines from a descriptor: the first says what to prepare, and has `prepare` do so;
/// every later one is answered by a forked copy of this process, which ends all the same when it takes too much memory,
/// and when nobody listens any more. A copy that ends without its answer becomes a refusal that says why. Returns when
/// nobody asks any more.
void serve_prepared(int descriptor, const std::function<void(const std::string& scenario)>& prepare,
                    const std::function<std::string(const std::string& line)>& answer);

}  // namespace mileage
