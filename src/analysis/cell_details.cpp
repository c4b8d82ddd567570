#include "analysis/cell_details.h"

#include <numeric>
#include <set>

#include "analysis/statistics.h"
#include "analysis/yardstick_judge.h"

namespace mileage {
namespace {

constexpr double growth_that_counts_bytes = 1024.0 * 1024.0;

using Visits = std::vector<const Visit*>;

/// Median over visits of a number read from each.
template <class Read>
double typical(const Visits& visits, Read read) {
  std::vector<double> values;
  for (const Visit* visit : visits) values.push_back(read(*visit));
  return median(std::move(values));
}

double per_frame(double sum, const Visit& visit) { return sum / static_cast<double>(visit.measured_frames()); }

double wall_ms(const Visit& visit) {
  return std::accumulate(visit.samples_ns.begin(), visit.samples_ns.end(), 0.0,
                         [](double sum, std::int64_t sample) { return sum + static_cast<double>(sample); }) *
         1e-6;
}

/// Per frame and name, over the visits that have the name.
std::map<std::string, double> typical_sums(const Visits& visits, std::map<std::string, double> Visit::*sums) {
  std::set<std::string> names;
  for (const Visit* visit : visits)
    for (const auto& [name, sum] : visit->*sums) names.insert(name);
  std::map<std::string, double> all;
  for (const std::string& name : names)
    all[name] = typical(visits, [&](const Visit& visit) {
      const auto found = (visit.*sums).find(name);
      return found == (visit.*sums).end() ? 0.0 : per_frame(found->second, visit);
    });
  return all;
}

std::optional<double> growth_per_frame(const Visits& visits) {
  const auto growth = [](const Visit& visit) { return visit.memory.end_bytes - visit.memory.built_bytes; };
  if (typical(visits, growth) < growth_that_counts_bytes) return std::nullopt;
  return typical(visits, [&](const Visit& visit) {
    return growth(visit) / static_cast<double>(visit.measured_frames() + static_cast<std::int64_t>(visit.warmup_ns.size()));
  });
}

CellDetail detail_of(double x, const Visits& visits) {
  CellDetail detail;
  detail.x = x;
  detail.frame_ms = typical(visits, [](const Visit& visit) { return per_frame(wall_ms(visit), visit); });
  detail.thread_busy_ms = typical(visits, [](const Visit& visit) { return per_frame(visit.thread_busy_ms, visit); });
  detail.processor_ms = typical(visits, [](const Visit& visit) { return per_frame(visit.processor_ms, visit); });
  detail.phases_ms = typical_sums(visits, &Visit::phases_ms);
  detail.counters = typical_sums(visits, &Visit::counters);
  detail.bytes_per_entity = typical(visits, [](const Visit& visit) {
    return (visit.memory.built_bytes - visit.memory.empty_bytes) / static_cast<double>(visit.count);
  });
  detail.growth_bytes_per_frame = growth_per_frame(visits);
  for (const Visit* visit : visits) detail.frames_per_sample = std::max(detail.frames_per_sample, visit->frames_per_sample);
  return detail;
}

}  // namespace

std::vector<CellDetail> details_of(const Study& study, const Series& series) {
  std::map<double, Visits> cells;
  for (const Visit* visit : evidence_visits(study))
    if (visit->series == series) cells[visit->place()].push_back(visit);
  std::vector<CellDetail> details;
  for (const auto& [x, visits] : cells) details.push_back(detail_of(x, visits));
  return details;
}

}  // namespace mileage
