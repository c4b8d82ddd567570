// For a program that loads for long: one process prepares once, and each run is made by a fork of it.
#pragma once

#include <filesystem>
#include <functional>
#include <map>
#include <memory>
#include <string>

namespace mileage {

/// A line of the run protocol, or why there is none.
struct ProgramAnswer {
  std::string line;
  std::string failure;  ///< Empty on success.
  int left_behind = 0;  ///< Ended.
};

struct ProgramLimits {
  double memory_bytes = 0;   ///< Resident, of a run with all that it starts; 0 for none.
  double preparing_s = 600;  ///< Of the preparation.
};

/// Client. Starts the process at the first question, and again after a time-out or crash.
class PreparedProgram {
 public:
  PreparedProgram(std::filesystem::path program, const ProgramLimits& limits);
  ~PreparedProgram();
  PreparedProgram(const PreparedProgram&) = delete;
  PreparedProgram& operator=(const PreparedProgram&) = delete;

  /// `limit_s` is for the answer, not for preparing. A failed preparation is not repeated. Throws Stopped.
  ProgramAnswer ask(const std::string& scenario, const std::string& line, double limit_s);

 private:
  class Process;
  std::string prepare(const std::string& scenario);
  ProgramAnswer hear(double seconds, const std::string& who);

  std::filesystem::path program_;
  ProgramLimits limits_;
  std::map<std::string, std::string> unprepared_;  ///< Reasons, by scenario.
  std::string scenario_;                           ///< Prepared one.
  std::unique_ptr<Process> process_;
};

/// Server. The first line from `descriptor` says what to prepare; each later one is answered by a fork, which ends if
/// it exceeds memory or nobody listens. A fork without an answer gives a refusal. Returns at the end of input.
void serve_prepared(int descriptor, const std::function<void(const std::string& scenario)>& prepare,
                    const std::function<std::string(const std::string& line)>& answer);

}  // namespace mileage
