#include "analysis/answers/limits.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

#include "analysis/analysis.h"
#include "analysis/answers/growth.h"
#include "analysis/answers/questions.h"
#include "analysis/statistics/constants.h"
#include "types/notation.h"

namespace mileage {
namespace {

double away_from(double a, double b) { return std::fabs(std::log(a / b)); }

struct FrameFacts {
  const Analysis& analysis;
  std::size_t series;
  const CellDetail& cell;
  const std::optional<DeviceShare>& device;
  double budget_ms;

  const Machine& machine() const { return analysis.evidence.head.machine; }
  const VariantFacts* facts() const {
    return analysis.evidence.head.scenario.find(analysis.evidence.series[series].series.variant);
  }
  bool is_on_device() const { return facts() != nullptr && !facts()->device.empty(); }
  double share(const std::optional<double>& ms) const { return ms ? *ms / cell.frame_ms : 0; }
  double phase_share(const char* phase) const {
    const auto found = cell.phases_ms.find(phase);
    return found == cell.phases_ms.end() ? 0 : found->second / cell.frame_ms;
  }
};

std::optional<double> filled_at(const FrameFacts& scene, double share) {
  if (share <= 0) return std::nullopt;
  return capacity(scene.analysis.curves[scene.series], scene.budget_ms / share).at;
}

void add_use(const FrameFacts& scene, Resource what, double share, SeriesLimit& limit) {
  limit.uses.push_back({what, share, filled_at(scene, share)});
}

double largest_cache(const Machine& machine) {
  double largest = 0;
  for (const auto& [name, bytes] : machine.cache_bytes) largest = std::max(largest, bytes);
  return largest;
}

/// Nothing if unknown or if they stay in the caches.
std::optional<double> bytes_moved(const FrameFacts& scene) {
  const auto told = scene.cell.counters.find(bytes_counter);
  if (told != scene.cell.counters.end()) return told->second;
  if (!scene.cell.bytes_per_entity || scene.is_on_device()) return std::nullopt;
  const double world = *scene.cell.bytes_per_entity * scene.cell.x;
  return world > largest_cache(scene.machine()) ? std::optional(2 * world) : std::nullopt;
}

/// Of a bare pass on the cores that the frame uses.
std::optional<double> pass_speed(const FrameFacts& scene) {
  const auto& speeds = scene.machine().pass_bytes_per_s;
  if (speeds.empty()) return std::nullopt;
  const double cores = scene.cell.cores_used().value_or(1);
  const auto of_one = speeds.find("1");
  const bool is_of_many = cores > many_cores_from && speeds.size() > 1;
  if (!is_of_many && of_one != speeds.end()) return of_one->second;
  double fastest = 0;
  for (const auto& [number, speed] : speeds) fastest = std::max(fastest, speed);
  return fastest;
}

void add_memory_traffic(const FrameFacts& scene, SeriesLimit& limit) {
  const auto bytes = bytes_moved(scene);
  const auto speed = pass_speed(scene);
  if (!bytes || !speed || *bytes <= 0) return;
  const double pass_ms = *bytes / *speed * 1e3;
  const double at = scene.cell.x * scene.budget_ms / pass_ms;
  limit.uses.push_back({Resource::memory_traffic, pass_ms / scene.cell.frame_ms, at});
  const bool is_counted = scene.cell.counters.count(bytes_counter) > 0;
  limit.evidence.push_back(fmt::format("reading and writing {}{} alone would take {:.0f} % of the frame",
                                       bytes_text(*bytes), is_counted ? "" : " (its whole world)",
                                       100 * pass_ms / scene.cell.frame_ms));
}

void add_memory_size(const FrameFacts& scene, double limit_bytes, SeriesLimit& limit) {
  if (!scene.cell.bytes_per_entity || !scene.cell.peak_bytes || limit_bytes <= 0) return;
  const double besides = std::max(0.0, *scene.cell.peak_bytes - *scene.cell.bytes_per_entity * scene.cell.x);
  const double at = (limit_bytes - besides) / *scene.cell.bytes_per_entity;
  limit.uses.push_back(
      {Resource::memory_size, *scene.cell.peak_bytes / limit_bytes, at > 0 ? std::optional(at) : std::nullopt});
}

void add_threads(const FrameFacts& scene, SeriesLimit& limit) {
  const CellDetail& cell = scene.cell;
  if (cell.thread_busy_ms) {
    const double busy = std::clamp(scene.share(cell.thread_busy_ms), 0.0, 1.0);
    add_use(scene, Resource::frame_thread, busy, limit);
    limit.evidence.push_back(fmt::format("main thread {:.0f} % busy", 100 * busy));
  }
  if (cell.processor_ms && scene.machine().cores > 0) {
    const double cores = cell.cores_used().value_or(0);
    add_use(scene, Resource::all_cores, std::min(1.0, cores / scene.machine().cores), limit);
    limit.evidence.push_back(fmt::format("{:.1f} of {} cores used", cores, scene.machine().cores));
  }
}

void add_device(const FrameFacts& scene, SeriesLimit& limit) {
  if (!scene.is_on_device()) return;
  if (scene.device && !scene.device->shares_cores)
    add_use(scene, Resource::device, std::min(1.0, scene.device->device_ms / scene.cell.frame_ms), limit);
  if (const double submit = scene.phase_share("submit"); submit > 0) {
    add_use(scene, Resource::submission, submit, limit);
    limit.evidence.push_back(fmt::format("submission takes {:.0f} % of the frame", 100 * submit));
  }
  if (scene.device && scene.device->shares_cores) limit.evidence.emplace_back("software device: it uses the CPU cores");
}

/// Share in which workers wait for the slowest one, and before and after all batches. Nothing without notes or single
/// frames.
std::optional<double> unbalanced_share(const FrameFacts& scene) {
  std::vector<double> shares;
  for (const JudgedRun* one : scene.analysis.evidence.series[scene.series].runs) {
    const auto& work = one->run->work;
    if (one->x != scene.cell.x || !work || !work->before_ms || !work->after_ms || work->busy_ms.size() < 2) continue;
    double busy_ms = 0;
    for (const double ms : work->busy_ms) busy_ms += ms;
    const double span_ms = measured_wall_ms(*one->run) - *work->before_ms - *work->after_ms;
    if (span_ms > 0) shares.push_back(1 - busy_ms / static_cast<double>(work->busy_ms.size()) / span_ms);
  }
  if (shares.empty()) return std::nullopt;
  double sum = 0;
  for (const double share : shares) sum += share;
  return sum / static_cast<double>(shares.size());
}

/// The same variant with more workers at the same place.
struct MoreWorkers {
  double fewer = 0, more = 0;
  double takes = 1;      ///< Ratio to the time with fewer.
  double processor = 1;  ///< The same of CPU time.
};

double workers_of(const Series& series) {
  const auto found = series.knobs.values().find("workers");
  const double* number = found == series.knobs.values().end() ? nullptr : std::get_if<double>(&found->second);
  return number == nullptr ? 0 : *number;
}

std::optional<MoreWorkers> with_more_workers(const FrameFacts& scene, const PartsAnswer& parts) {
  const EvidenceSet& evidence = scene.analysis.evidence;
  const Series& own = evidence.series[scene.series].series;
  if (workers_of(own) == 0) return std::nullopt;
  for (std::size_t i = 0; i < evidence.series.size(); ++i) {
    Series other = evidence.series[i].series;
    const double workers = workers_of(other);
    other.knobs.set("workers", workers_of(own));
    if (i == scene.series || workers == 0 || workers == workers_of(own) || !(other == own)) continue;
    for (const CellDetail& cell : parts.series[i].cells) {
      if (cell.x != scene.cell.x || !cell.processor_ms || !scene.cell.processor_ms) continue;
      const bool own_is_more = workers_of(own) > workers;
      const CellDetail& more = own_is_more ? scene.cell : cell;
      const CellDetail& fewer = own_is_more ? cell : scene.cell;
      return MoreWorkers{std::min(workers, workers_of(own)), std::max(workers, workers_of(own)),
                         more.frame_ms / fewer.frame_ms, *more.processor_ms / *fewer.processor_ms};
    }
  }
  return std::nullopt;
}

double share_of(const SeriesLimit& limit, Resource what) {
  for (const ResourceUse& use : limit.uses)
    if (use.what == what) return use.share;
  return 0;
}

Resource first_of(const FrameFacts& scene, const SeriesLimit& limit, const std::optional<MoreWorkers>& workers) {
  const double traffic = share_of(limit, Resource::memory_traffic);
  const double thread = share_of(limit, Resource::frame_thread);
  const double cores = scene.cell.cores_used().value_or(thread);
  const bool workers_do_not_help =
      workers && workers->takes > 1 - useful_share_of_a_worker * (1 - workers->fewer / workers->more);
  if (share_of(limit, Resource::device) >= used_up) return Resource::device;
  if (share_of(limit, Resource::submission) >= mostly) return Resource::submission;
  if (traffic >= used_up_traffic) return Resource::memory_traffic;
  if (workers_do_not_help && workers->processor > grows_with_workers) return Resource::memory_traffic;
  if (scene.machine().cores > 1 && share_of(limit, Resource::all_cores) >= used_up) return Resource::all_cores;
  if (!scene.cell.thread_busy_ms) return Resource::inconclusive;
  if (thread >= used_up && cores < many_cores_from) return Resource::frame_thread;
  // Besides the main thread: work that is waited for.
  const auto unbalanced = unbalanced_share(scene);
  if (unbalanced && *unbalanced >= waits_from) return Resource::waiting;
  if (thread < 1 - waits_from && cores < used_up) return Resource::waiting;
  return Resource::inconclusive;
}

SeriesLimit limit_of(const FrameFacts& scene, const PartsAnswer& parts, double memory_bytes) {
  SeriesLimit limit;
  limit.series = scene.series;
  limit.x = scene.cell.x;
  add_device(scene, limit);
  add_threads(scene, limit);
  add_memory_traffic(scene, limit);
  add_memory_size(scene, memory_bytes, limit);
  if (const auto unbalanced = unbalanced_share(scene))
    limit.evidence.push_back(
        fmt::format("workers idle {:.0f} % of the time between the first batch and the last", 100 * *unbalanced));
  const auto workers = with_more_workers(scene, parts);
  if (workers)
    limit.evidence.push_back(
        fmt::format("{:.0f} workers instead of {:.0f}: {:.2f}x the time, {:.2f}x the processor time", workers->more,
                    workers->fewer, workers->takes, workers->processor));
  limit.first = first_of(scene, limit, workers);
  std::stable_sort(limit.uses.begin(), limit.uses.end(),
                   [](const ResourceUse& a, const ResourceUse& b) { return a.share > b.share; });
  return limit;
}

/// Knees below the capacity: how much more entities cost, and the cache that they no longer fit.
void add_knees(const SeriesGrowth& growth, const Axis& axis, SeriesLimit& limit) {
  for (const Knee& knee : growth.knees)
    if (knee.at < limit.x && knee.slope_above > knee.slope_below && knee.slope_below > 0)
      limit.evidence.push_back(fmt::format("{:.2f}x the slope above {}{}", knee.slope_above / knee.slope_below,
                                           place_text(knee.at, axis),
                                           knee.cache.empty() ? "" : ", where the world outgrows " + knee.cache));
}

/// Nearest to the capacity, or the largest cell.
const CellDetail* cell_at_capacity(const SeriesParts& parts, const Capacity& capacity, std::size_t& index) {
  const CellDetail* nearest = nullptr;
  for (std::size_t i = 0; i < parts.cells.size(); ++i) {
    const CellDetail& cell = parts.cells[i];
    if (nearest != nullptr && capacity.at && away_from(cell.x, *capacity.at) >= away_from(nearest->x, *capacity.at))
      continue;
    nearest = &cell;
    index = i;
  }
  return nearest;
}

MemoryCapacity memory_capacity(std::size_t series, const SeriesParts& parts, double limit_bytes) {
  MemoryCapacity found{series, {}, 0};
  if (parts.cells.empty()) return found;
  const CellDetail& largest = parts.cells.back();
  for (const CellDetail& cell : parts.cells) found.keeps_growing = found.keeps_growing || cell.growth_bytes_per_frame;
  if (!largest.bytes_per_entity || !largest.peak_bytes || found.keeps_growing) return found;
  found.bytes_each = *largest.bytes_per_entity;
  const double besides = std::max(0.0, *largest.peak_bytes - found.bytes_each * largest.x);
  found.at = std::max(0.0, (limit_bytes - besides) / found.bytes_each);
  return found;
}

/// With catch-up, ticks that leave no time fall behind forever. A spike is recovered within a second if the ticks of a
/// second leave its length.
TickLimit tick_limit(std::size_t series, const SeriesCurve& curve, const Questions& questions) {
  const double left_ms = questions.tick_ms - questions.reserve_ms;
  const double left_after_spike_ms = left_ms - questions.spike_ms * questions.tick_ms * 1e-3;
  TickLimit limit{series, capacity(curve, left_ms), {}};
  limit.spike_recovery.none = NoCapacity::over_at_once;
  if (left_after_spike_ms > 0) limit.spike_recovery = capacity(curve, left_after_spike_ms);
  return limit;
}

}  // namespace

LimitsAnswer limits_answer(const Analysis& analysis, const PartsAnswer& parts, const GrowthAnswer& growth,
                           const Questions& questions) {
  const EvidenceSet& evidence = analysis.evidence;
  LimitsAnswer answer;
  answer.budget_ms = questions.budgets_of(evidence).front();
  answer.memory_limit_bytes = questions.memory_bytes;
  answer.tick_ms = questions.tick_ms;
  answer.spike_ms = questions.spike_ms;
  const double memory_bytes = questions.memory_bytes > 0 ? questions.memory_bytes : evidence.head.machine.memory_bytes;
  for (std::size_t series = 0; series < analysis.curves.size(); ++series) {
    std::size_t index = 0;
    const Capacity ends_at = capacity(analysis.curves[series], answer.budget_ms);
    const CellDetail* cell = cell_at_capacity(parts.series[series], ends_at, index);
    if (cell == nullptr || cell->frame_ms <= 0) continue;
    const FrameFacts scene{analysis, series, *cell, parts.series[series].devices[index], answer.budget_ms};
    answer.limits.push_back(limit_of(scene, parts, memory_bytes));
    add_knees(growth.series[series], evidence.axis, answer.limits.back());
    if (questions.memory_bytes > 0)
      answer.memory.push_back(memory_capacity(series, parts.series[series], questions.memory_bytes));
    if (questions.tick_ms > 0) answer.ticks.push_back(tick_limit(series, analysis.curves[series], questions));
  }
  return answer;
}

}  // namespace mileage
