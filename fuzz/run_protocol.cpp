#include <nlohmann/json.hpp>

#include "fuzz_target.h"
#include "measure/runners/run_protocol.h"
#include "study/study_json.h"
#include "types/error.h"

namespace {

using namespace mileage;

/// Calls what may throw Error.
template <class Call>
void refused_or(const Call& call) {
  try {
    call();
  } catch (const Error&) {}
}

}  // namespace

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  const std::string line = fuzz::text_of(data, size);
  refused_or([&] {
    const Request request = parse_request(line);
    if (!request.describe)
      fuzz::must(run_request_line(parse_request(run_request_line(request.run)).run) == run_request_line(request.run),
                 "a request is sent as it was read");
  });
  refused_or([&] {
    const Run run = parse_run_answer(line);
    fuzz::must(to_json(parse_run_answer(run_answer_line(run))) == to_json(run), "an answer is sent as it was read");
  });
  refused_or([&] {
    const auto scenarios = parse_describe_answer(line);
    fuzz::must(
        describe_answer_line(parse_describe_answer(describe_answer_line(scenarios))) == describe_answer_line(scenarios),
        "what is offered is sent as it was read");
  });
  return 0;
}
