#include "measure/in_process/run_request.h"

#include "types/text.h"

namespace mileage {
namespace {

constexpr std::size_t longest_reason = 600;

}  // namespace

Run failed_run(const RunRequest& request, const std::string& reason) {
  Run run = blank_run(request);
  run.status = RunStatus::failed;
  run.failure = shortened(printable_line(without_paths(reason)), longest_reason);
  return run;
}

Run blank_run(const RunRequest& request) {
  Run run;
  run.series = request.series;
  run.count = request.count;
  run.seed = request.seed;
  return run;
}

}  // namespace mileage
