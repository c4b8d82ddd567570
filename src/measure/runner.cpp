#include "measure/runner.h"

#include "measure/child_process.h"
#include "measure/visit_protocol.h"
#include "types/error.h"

namespace mileage {
namespace {

constexpr double describe_limit_s = 20;

std::string reason_of(const Exchange& exchange) {
  return exchange.last_words.empty() ? exchange.failure : exchange.failure + "; its last words: " + exchange.last_words;
}

}  // namespace

std::vector<Scenario> ProgramRunner::describe() {
  const Exchange exchange = ask_program(program_, describe_request_line(), {describe_limit_s, 0});
  const std::string name = program_.filename().string();
  if (!exchange.failure.empty())
    throw Error({.kind = FaultKind::cannot_measure, .file = name,
                 .problem = "the program does not tell what it can measure: " + reason_of(exchange),
                 .accepted = "a program whose main calls mileage::answer_if_asked first"});
  try {
    return parse_describe_answer(exchange.answer);
  } catch (const Error& error) {
    throw Error({.kind = FaultKind::cannot_measure, .file = name, .problem = error.what()});
  }
}

Visit ProgramRunner::run(const VisitRequest& request, double limit_s) {
  const Exchange exchange = ask_program(program_, visit_request_line(request), {limit_s, memory_limit_bytes_});
  if (!exchange.failure.empty()) return failed_visit(request, reason_of(exchange));
  try {
    return parse_visit_answer(exchange.answer);
  } catch (const Error& error) {
    return failed_visit(request, error.what());
  }
}

Visit SameProcessRunner::run(const VisitRequest& request, double) { return make_visit(request, *catalogue_, instruments_); }

std::filesystem::path own_program() { return std::filesystem::read_symlink("/proc/self/exe"); }

}  // namespace mileage
