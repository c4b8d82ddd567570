// Between tool and run process (docs/reference/run-protocol.md): a reserved first argument and two descriptors; one
// JSON line with the request in, one with the answer out. Standard output is left to variants.
#pragma once

#include <string>
#include <vector>

#include "measure/in_process/run_request.h"

namespace mileage {

inline constexpr int protocol_version = 2;

/// The second argument names the descriptors.
inline constexpr const char* run_argument = "--mileage-run";
inline constexpr const char* run_descriptors = "3,4";
/// Instead of both: a socket for prepared processes.
inline constexpr const char* prepared_descriptor = "prepared,3";

std::string run_request_line(const RunRequest& request);
std::string describe_request_line();

struct Request {
  bool describe = false;  ///< Asks for the catalogue.
  RunRequest run;
};
/// Throws Error (bad input), also for another protocol version.
Request parse_request(const std::string& line);

/// First line to a process that prepares, and its answer.
struct Preparing {
  std::string scenario;
  double memory_limit_bytes = 0;  ///< Of a copy; 0 for none.
};
std::string prepare_request_line(const std::string& scenario, double memory_limit_bytes);
Preparing parse_prepare_request(const std::string& line);
std::string prepare_answer_line();
/// Throws Error (bad input); for a refusal, with its reason.
void parse_prepare_answer(const std::string& line);

/// After the answer: number of processes ended.
std::string left_behind_line(int processes);
int parse_left_behind(const std::string& line);

std::string run_answer_line(const Run& run);
std::string describe_answer_line(const std::vector<Scenario>& scenarios);

std::string refusal_line(const std::string& reason);

/// Throw Error (bad input); for a refusal, with its reason.
Run parse_run_answer(const std::string& line);
std::vector<Scenario> parse_describe_answer(const std::string& line);

}  // namespace mileage
