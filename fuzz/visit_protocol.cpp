// The visit protocol: requests and answers of programs that may be anything.
#include <nlohmann/json.hpp>

#include "fuzz_target.h"
#include "measure/runners/visit_protocol.h"
#include "study/study_json.h"
#include "types/error.h"

namespace {

using namespace mileage;

/// Calls with a line what may refuse it.
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
      fuzz::must(visit_request_line(parse_request(visit_request_line(request.visit)).visit) ==
                     visit_request_line(request.visit),
                 "a request is sent as it was read");
  });
  refused_or([&] {
    const Visit visit = parse_visit_answer(line);
    fuzz::must(to_json(parse_visit_answer(visit_answer_line(visit))) == to_json(visit),
               "an answer is sent as it was read");
  });
  refused_or([&] {
    const auto scenarios = parse_describe_answer(line);
    fuzz::must(
        describe_answer_line(parse_describe_answer(describe_answer_line(scenarios))) == describe_answer_line(scenarios),
        "what is offered is sent as it was read");
  });
  return 0;
}
