#include "mileage/measure/serve_runs.h"

#include <unistd.h>

#include <cstdio>
#include <cstring>
#include <exception>
#include <string>

#include "measure/in_process/make_run.h"
#include "measure/runners/prepared_program.h"
#include "measure/runners/run_protocol.h"
#include "system/descriptors.h"

namespace mileage {
namespace {

constexpr int answered = 0;
constexpr int not_answered = 3;
constexpr int prepared_socket = 3;

/// Second argument.
struct Line {
  int request = 0;  ///< Descriptor.
  int answer = 0;   ///< Descriptor.
};

std::string read_line(int descriptor) {
  std::string line;
  char buffer[4096];
  while (line.find('\n') == std::string::npos) {
    const ssize_t got = ::read(descriptor, buffer, sizeof buffer);
    if (got <= 0) break;
    line.append(buffer, static_cast<std::size_t>(got));
  }
  return line.substr(0, line.find('\n'));
}

std::string answer_to(const std::string& line, const Catalogue& catalogue) {
  if (!catalogue.mistakes().empty()) return refusal_line("mistake in the catalogue: " + catalogue.mistakes().front());
  try {
    const Request request = parse_request(line);
    if (request.describe) return describe_answer_line(catalogue.scenarios_here());
    SystemClock clock;
    MachineYardstick yardstick(clock);
    HardwareMeter hardware(machine_sources());
    return run_answer_line(make_run(request.run, catalogue, {&clock, &yardstick, read_load, read_spent, &hardware}));
  } catch (const std::exception& error) {
    return refusal_line(error.what());
  }
}

int answer_prepared(const Catalogue& catalogue) {
  open_standard_descriptors();
  const BrokenPipeGuard guard;
  serve_prepared(
      prepared_socket, [&](const std::string& scenario) { prepare_once(catalogue, scenario); },
      [&](const std::string& line) { return answer_to(line, catalogue); });
  return answered;
}

}  // namespace

std::optional<int> serve_runs(int argc, char** argv, const Catalogue& catalogue) {
  if (argc < 3 || std::strcmp(argv[1], run_argument) != 0) return std::nullopt;
  if (std::strcmp(argv[2], prepared_descriptor) == 0) return answer_prepared(catalogue);
  Line line;
  if (std::sscanf(argv[2], "%d,%d", &line.request, &line.answer) != 2) return not_answered;
  open_standard_descriptors();
  const BrokenPipeGuard guard;
  return write_all(line.answer, answer_to(read_line(line.request), catalogue) + "\n") ? answered : not_answered;
}

}  // namespace mileage
