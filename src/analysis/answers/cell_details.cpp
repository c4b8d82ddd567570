#include "analysis/answers/cell_details.h"

#include <algorithm>
#include <numeric>
#include <set>

#include "analysis/evidence/evidence_set.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/statistics.h"

namespace mileage {
namespace {

using Visits = std::vector<const Visit*>;

/// Median over visits of a number read from each.
template <class Read>
double typical(const Visits& visits, Read read) {
  std::vector<double> values;
  for (const Visit* visit : visits) values.push_back(read(*visit));
  return median(std::move(values));
}

/// The same where some of them tell it; nothing where none does.
template <class Read>
std::optional<double> typical_known(const Visits& visits, Read read) {
  std::vector<double> values;
  for (const Visit* visit : visits)
    if (const std::optional<double> value = read(*visit)) values.push_back(*value);
  return values.empty() ? std::nullopt : std::optional(median(std::move(values)));
}

double per_frame(double sum, const Visit& visit) { return sum / static_cast<double>(visit.measured_frames()); }

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

bool keeps_growing(const Memory& memory) {
  if (!memory.settled_bytes || !memory.middle_bytes || !memory.end_bytes) return false;
  const double first = *memory.middle_bytes - *memory.settled_bytes;
  const double second = *memory.end_bytes - *memory.middle_bytes;
  return first > growth_that_counts_bytes && second > growth_that_counts_bytes && second > goes_on_share * first;
}

/// Of runs that are long enough: in the first few frames, allocators still fill their pools.
std::optional<double> growth_per_frame(Visits visits) {
  std::erase_if(visits, [](const Visit* visit) { return visit->measured_frames() < frames_for_growth; });
  const auto growing = static_cast<std::size_t>(
      std::count_if(visits.begin(), visits.end(), [](const Visit* visit) { return keeps_growing(visit->memory); }));
  if (growing < visits_for_growth || 4 * growing < 3 * visits.size()) return std::nullopt;
  return typical_known(visits, [](const Visit& visit) {
    return keeps_growing(visit.memory) ? std::optional((*visit.memory.end_bytes - *visit.memory.settled_bytes) /
                                                       static_cast<double>(visit.measured_frames()))
                                       : std::nullopt;
  });
}

std::optional<double> per_frame_known(const std::optional<double>& sum, const Visit& visit) {
  return sum ? std::optional(per_frame(*sum, visit)) : std::nullopt;
}

std::optional<double> world_bytes(const Visit& visit) {
  const Memory& memory = visit.memory;
  return memory.built_bytes && memory.empty_bytes ? std::optional(*memory.built_bytes - *memory.empty_bytes)
                                                  : std::nullopt;
}

/// What a world takes beyond the smallest one of its series.
void tell_bytes_per_entity(const std::map<double, Visits>& cells, std::vector<CellDetail>& details) {
  if (cells.empty()) return;
  const auto count_of = [](const Visits& visits) {
    return typical(visits, [](const Visit& visit) { return static_cast<double>(visit.count); });
  };
  const auto smallest = std::min_element(cells.begin(), cells.end(), [&](const auto& a, const auto& b) {
    return count_of(a.second) < count_of(b.second);
  });
  const auto base = typical_known(smallest->second, world_bytes);
  std::size_t place = 0;
  for (const auto& [x, visits] : cells) {
    CellDetail& detail = details[place++];
    const auto bytes = typical_known(visits, world_bytes);
    const double more = count_of(visits) - count_of(smallest->second);
    if (base && bytes && more > 0 && *bytes - *base > growth_that_counts_bytes)
      detail.bytes_per_entity = (*bytes - *base) / more;
  }
}

CellDetail detail_of(double x, const Visits& visits) {
  CellDetail detail;
  detail.x = x;
  detail.frame_ms = typical(visits, [](const Visit& visit) { return per_frame(measured_wall_ms(visit, true), visit); });
  detail.setup_ms = typical_known(visits, [](const Visit& visit) { return visit.setup_ms; });
  detail.thread_busy_ms =
      typical_known(visits, [](const Visit& visit) { return per_frame_known(visit.thread_busy_ms, visit); });
  detail.processor_ms =
      typical_known(visits, [](const Visit& visit) { return per_frame_known(visit.processor_ms, visit); });
  detail.whole_cores_used = typical_known(visits, [](const Visit& visit) {
    return visit.whole_processor_ms && visit.took_s > 0 ? std::optional(*visit.whole_processor_ms * 1e-3 / visit.took_s)
                                                        : std::nullopt;
  });
  detail.phases_ms = typical_sums(visits, &Visit::phases_ms);
  detail.counters = typical_sums(visits, &Visit::counters);
  detail.start_ms = typical_known(visits, [](const Visit& visit) { return visit.start_ms; });
  detail.start_bytes = typical_known(visits, [](const Visit& visit) { return visit.memory.start_bytes; });
  detail.peak_bytes = typical_known(visits, [](const Visit& visit) { return visit.memory.peak_bytes; });
  detail.growth_bytes_per_frame = growth_per_frame(visits);
  for (const Visit* visit : visits)
    detail.frames_per_sample = std::max(detail.frames_per_sample, visit->frames_per_sample);
  return detail;
}

}  // namespace

std::vector<CellDetail> details_of(const SeriesEvidence& evidence) {
  std::map<double, Visits> cells;
  for (const JudgedVisit* one : evidence.visits) cells[one->x].push_back(one->visit);
  std::vector<CellDetail> details;
  for (const auto& [x, visits] : cells) details.push_back(detail_of(x, visits));
  tell_bytes_per_entity(cells, details);
  return details;
}

}  // namespace mileage
