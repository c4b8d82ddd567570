#include "analysis/answers/cell_details.h"

#include <algorithm>
#include <numeric>
#include <set>

#include "analysis/evidence/evidence_set.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/statistics.h"

namespace mileage {
namespace {

using Runs = std::vector<const Run*>;

/// Median over runs.
template <class BreakdownInputs>
double typical(const Runs& runs, BreakdownInputs read) {
  std::vector<double> values;
  for (const Run* run : runs) values.push_back(read(*run));
  return median(std::move(values));
}

/// The same over the runs that have it.
template <class BreakdownInputs>
std::optional<double> typical_known(const Runs& runs, BreakdownInputs read) {
  std::vector<double> values;
  for (const Run* run : runs)
    if (const std::optional<double> value = read(*run)) values.push_back(*value);
  return values.empty() ? std::nullopt : std::optional(median(std::move(values)));
}

double per_frame(double sum, const Run& run) { return sum / static_cast<double>(run.measured_frames()); }

std::map<std::string, double> typical_sums(const Runs& runs, std::map<std::string, double> Run::*sums) {
  std::set<std::string> names;
  for (const Run* run : runs)
    for (const auto& [name, sum] : run->*sums) names.insert(name);
  std::map<std::string, double> all;
  for (const std::string& name : names)
    all[name] = typical(runs, [&](const Run& run) {
      const auto found = (run.*sums).find(name);
      return found == (run.*sums).end() ? 0.0 : per_frame(found->second, run);
    });
  return all;
}

bool keeps_growing(const Memory& memory) {
  if (!memory.warmed_up_bytes || !memory.middle_bytes || !memory.end_bytes) return false;
  const double first = *memory.middle_bytes - *memory.warmed_up_bytes;
  const double second = *memory.end_bytes - *memory.middle_bytes;
  return first > growth_that_counts_bytes && second > growth_that_counts_bytes && second > goes_on_share * first;
}

/// Long runs only: allocators fill their pools in the first frames.
std::optional<double> growth_per_frame(Runs runs) {
  std::erase_if(runs, [](const Run* run) { return run->measured_frames() < frames_for_growth; });
  const auto growing = static_cast<std::size_t>(
      std::count_if(runs.begin(), runs.end(), [](const Run* run) { return keeps_growing(run->memory); }));
  if (growing < runs_for_growth || 4 * growing < 3 * runs.size()) return std::nullopt;
  return typical_known(runs, [](const Run& run) {
    return keeps_growing(run.memory) ? std::optional((*run.memory.end_bytes - *run.memory.warmed_up_bytes) /
                                                     static_cast<double>(run.measured_frames()))
                                     : std::nullopt;
  });
}

std::optional<double> per_frame_known(const std::optional<double>& sum, const Run& run) {
  return sum ? std::optional(per_frame(*sum, run)) : std::nullopt;
}

std::optional<double> world_bytes(const Run& run) {
  const Memory& memory = run.memory;
  return memory.built_bytes && memory.empty_bytes ? std::optional(*memory.built_bytes - *memory.empty_bytes)
                                                  : std::nullopt;
}

void estimate_bytes_per_entity(const std::map<double, Runs>& cells, std::vector<CellDetail>& details) {
  if (cells.empty()) return;
  const auto count_of = [](const Runs& runs) {
    return typical(runs, [](const Run& run) { return static_cast<double>(run.count); });
  };
  const auto smallest = std::min_element(cells.begin(), cells.end(), [&](const auto& a, const auto& b) {
    return count_of(a.second) < count_of(b.second);
  });
  const auto base = typical_known(smallest->second, world_bytes);
  std::size_t place = 0;
  for (const auto& [x, runs] : cells) {
    CellDetail& detail = details[place++];
    const auto bytes = typical_known(runs, world_bytes);
    const double more = count_of(runs) - count_of(smallest->second);
    if (base && bytes && more > 0 && *bytes - *base > growth_that_counts_bytes)
      detail.bytes_per_entity = (*bytes - *base) / more;
  }
}

CellDetail detail_of(double x, const Runs& runs) {
  CellDetail detail;
  detail.x = x;
  detail.frame_ms = typical(runs, [](const Run& run) { return per_frame(measured_wall_ms(run, true), run); });
  detail.setup_ms = typical_known(runs, [](const Run& run) { return run.setup_ms; });
  detail.thread_busy_ms = typical_known(runs, [](const Run& run) { return per_frame_known(run.thread_busy_ms, run); });
  detail.processor_ms = typical_known(runs, [](const Run& run) { return per_frame_known(run.processor_ms, run); });
  detail.whole_cores_used = typical_known(runs, [](const Run& run) {
    return run.whole_processor_ms && run.took_s > 0 ? std::optional(*run.whole_processor_ms * 1e-3 / run.took_s)
                                                    : std::nullopt;
  });
  detail.phases_ms = typical_sums(runs, &Run::phases_ms);
  detail.counters = typical_sums(runs, &Run::counters);
  detail.start_ms = typical_known(runs, [](const Run& run) { return run.start_ms; });
  detail.start_bytes = typical_known(runs, [](const Run& run) { return run.memory.start_bytes; });
  detail.peak_bytes = typical_known(runs, [](const Run& run) { return run.memory.peak_bytes; });
  detail.growth_bytes_per_frame = growth_per_frame(runs);
  for (const Run* run : runs) detail.frames_per_sample = std::max(detail.frames_per_sample, run->frames_per_sample);
  return detail;
}

}  // namespace

std::vector<CellDetail> details_of(const SeriesEvidence& evidence) {
  std::map<double, Runs> cells;
  for (const JudgedRun* one : evidence.runs) cells[one->x].push_back(one->run);
  std::vector<CellDetail> details;
  for (const auto& [x, runs] : cells) details.push_back(detail_of(x, runs));
  estimate_bytes_per_entity(cells, details);
  return details;
}

}  // namespace mileage
