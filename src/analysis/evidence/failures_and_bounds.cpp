#include "analysis/evidence/failures_and_bounds.h"

#include <algorithm>
#include <map>

#include "analysis/evidence/labels.h"

namespace mileage {

std::vector<Failure> failures_of(const Study& study) {
  std::vector<Failure> failures;
  for (const Run& run : study.runs)
    if (run.status == RunStatus::failed)
      failures.push_back(
          {label_of(run.series, study.head.plan.series), static_cast<double>(run.count), run.block, run.failure});
  return failures;
}

std::vector<Failure> failures_among(const std::vector<JudgedRun>& runs, const std::vector<Series>& series) {
  std::vector<Failure> failures;
  for (const JudgedRun& one : runs)
    if (one.run->status == RunStatus::failed)
      failures.push_back({label_of(one.series, series), one.x, one.block, one.run->failure});
  return failures;
}

std::vector<Bound> bounds_among(const std::vector<JudgedRun>& runs, const std::vector<Series>& series) {
  std::map<std::pair<std::string, std::string>, std::map<double, double>> bounds;
  for (const JudgedRun& one : runs)
    if (one.run->status == RunStatus::bound) {
      double& max_ms = bounds[{label_of(one.series, series), one.run->failure}][one.x];
      max_ms = std::max(max_ms, typical_frame_ms(*one.run));
    }
  std::vector<Bound> all;
  for (const auto& [whose, cells] : bounds)
    for (const auto& [x, ms] : cells) all.push_back({whose.first, x, ms, whose.second});
  return all;
}

}  // namespace mileage
