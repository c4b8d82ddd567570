#include "measure/runner.h"

#include <algorithm>

#include "measure/child_process.h"
#include "measure/visit_protocol.h"
#include "types/error.h"

namespace mileage {
namespace {

constexpr double describe_limit_s = 20;

std::string reason_of(const Exchange& exchange) {
  return exchange.last_words.empty() ? exchange.failure : exchange.failure + "; its last words: " + exchange.last_words;
}

/// Of variants and knobs, those that tell what can be asked for.
std::vector<std::string> names_in(const Scenario& scenario) {
  std::vector<std::string> names;
  for (const VariantFacts& facts : scenario.variants) {
    names.push_back(facts.name);
    for (const Knob& knob : facts.knobs) names.push_back(facts.name + " " + knob.name);
  }
  for (const Knob& knob : scenario.knobs) names.push_back(knob.name);
  return names;
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

BuildsRunner::BuildsRunner(const std::vector<std::pair<std::string, std::filesystem::path>>& builds, double memory_limit_bytes) {
  for (const auto& [name, program] : builds) runners_.emplace_back(name, ProgramRunner(program, memory_limit_bytes));
}

std::vector<Scenario> BuildsRunner::describe() {
  const std::vector<Scenario> first = runners_.front().second.describe();
  for (std::size_t i = 1; i < runners_.size(); ++i)
    for (const Scenario& scenario : runners_[i].second.describe()) {
      const auto same = std::find_if(first.begin(), first.end(), [&](const Scenario& one) { return one.name == scenario.name; });
      if (same == first.end() || names_in(*same) != names_in(scenario))
        throw Error({.kind = FaultKind::cannot_measure, .field = "--builds", .problem = "the builds do not offer the same variants and knobs",
                     .found = scenario.name + " of " + runners_[i].first, .accepted = "builds of one program"});
    }
  return first;
}

Visit BuildsRunner::run(const VisitRequest& request, double limit_s) {
  for (auto& [name, runner] : runners_)
    if (name == request.series.build) return runner.run(request, limit_s);
  return failed_visit(request, "there is no build of that name");
}

Visit SameProcessRunner::run(const VisitRequest& request, double) { return make_visit(request, *catalogue_, instruments_); }

std::filesystem::path own_program() { return std::filesystem::read_symlink("/proc/self/exe"); }

}  // namespace mileage
