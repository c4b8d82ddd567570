// Between the tool and a run process (docs/reference/run-protocol.md): the process is started with a reserved
// first argument and two descriptors; it reads one JSON line with the request from the first and writes one JSON line
// with the answer to the second. What it prints goes elsewhere, since variants may print.
#pragma once

#include <string>
#include <vector>

#include "measure/in_process/run_request.h"

namespace mileage {

inline constexpr int protocol_version = 2;

/// First argument of a run process; the second one names the descriptors of the request and of the answer.
inline constexpr const char* run_argument = "--mileage-run";
inline constexpr const char* run_descriptors = "3,4";
/// In place of both: a socket over which a process prepares once and has copies of itself answer.
inline constexpr const char* prepared_descriptor = "prepared,3";

std::string run_request_line(const RunRequest& request);
std::string describe_request_line();

/// What a request line asks for.
struct Request {
  bool describe = false;  ///< The catalogue is asked for instead of a run.
  RunRequest run;
};
/// Throws Error (bad input) for a line that is no request, or one of another protocol version.
Request parse_request(const std::string& line);

/// The first line to a process that prepares, and its answer.
struct Preparing {
  std::string scenario;
  double memory_limit_bytes = 0;  ///< Of a copy; 0 means no limit.
};
std::string prepare_request_line(const std::string& scenario, double memory_limit_bytes);
Preparing parse_prepare_request(const std::string& line);
std::string prepare_answer_line();
/// Throws Error (bad input), for a refusal with its reason.
void parse_prepare_answer(const std::string& line);

/// After the answer of a copy: how many processes it had left that had to be ended.
std::string left_behind_line(int processes);
int parse_left_behind(const std::string& line);

std::string run_answer_line(const Run& run);
std::string describe_answer_line(const std::vector<Scenario>& scenarios);

/// Instead of an answer: why there is none.
std::string refusal_line(const std::string& reason);

/// Throw Error (bad input) for anything but an answer of this protocol version; for a refusal, with its reason.
Run parse_run_answer(const std::string& line);
std::vector<Scenario> parse_describe_answer(const std::string& line);

}  // namespace mileage
