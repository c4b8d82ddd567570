#include "analysis/evidence/unmeasured.h"

#include <algorithm>
#include <map>

#include "analysis/evidence/labels.h"

namespace mileage {

std::vector<Failure> failures_of(const Study& study) {
  std::vector<Failure> failures;
  for (const Visit& visit : study.visits)
    if (visit.status == VisitStatus::failed)
      failures.push_back({label_of(visit.series, study.head.plan.series), static_cast<double>(visit.count), visit.block,
                          visit.failure});
  return failures;
}

std::vector<Failure> failures_among(const std::vector<JudgedVisit>& visits, const std::vector<Series>& series) {
  std::vector<Failure> failures;
  for (const JudgedVisit& one : visits)
    if (one.visit->status == VisitStatus::failed)
      failures.push_back({label_of(one.series, series), one.x, one.block, one.visit->failure});
  return failures;
}

std::vector<Bound> bounds_among(const std::vector<JudgedVisit>& visits, const std::vector<Series>& series) {
  std::map<std::pair<std::string, std::string>, std::map<double, double>> bounds;
  for (const JudgedVisit& one : visits)
    if (one.visit->status == VisitStatus::bound) {
      double& most_ms = bounds[{label_of(one.series, series), one.visit->failure}][one.x];
      most_ms = std::max(most_ms, typical_frame_ms(*one.visit));
    }
  std::vector<Bound> all;
  for (const auto& [whose, cells] : bounds)
    for (const auto& [x, ms] : cells) all.push_back({whose.first, x, ms, whose.second});
  return all;
}

}  // namespace mileage
