#include "measure/runners/visit_request.h"

#include "types/text.h"

namespace mileage {
namespace {

constexpr std::size_t longest_reason = 600;

}  // namespace

Visit failed_visit(const VisitRequest& request, const std::string& reason) {
  Visit visit = blank_visit(request);
  visit.status = VisitStatus::failed;
  visit.failure = shortened(printable_line(without_paths(reason)), longest_reason);
  return visit;
}

Visit blank_visit(const VisitRequest& request) {
  Visit visit;
  visit.series = request.series;
  visit.count = request.count;
  visit.seed = request.seed;
  return visit;
}

}  // namespace mileage
