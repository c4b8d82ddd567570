#include "analysis/evidence/model_rows.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "analysis/evidence/by_series.h"
#include "analysis/evidence/other_load.h"
#include "analysis/statistics/constants.h"
#include "types/order_statistics.h"

namespace mileage {
namespace {

std::optional<double> remembered_ns(const Head& head, const DisturbanceFilter::Kind& kind) {
  if (!kind.program.empty()) return std::nullopt;
  const auto on_cores = head.full_speed_on_cores_ns.find(std::to_string(kind.cores));
  if (kind.cores > 1 && on_cores != head.full_speed_on_cores_ns.end()) return on_cores->second;
  return head.full_speed_ns;
}

ProbeRow probe_row(const YardstickReading& reading, const Head& head, std::map<DisturbanceFilter::Kind, int>& kinds) {
  const DisturbanceFilter::Kind kind = DisturbanceFilter::kind_of(reading);
  const int number = kinds.emplace(kind, static_cast<int>(kinds.size())).first->second;
  return {number,
          reading.one_half_ns,
          reading.other_half_ns,
          reading.fast_ns,
          std::max(1.0, static_cast<double>(reading.moments)),
          remembered_ns(head, kind)};
}

std::map<std::int64_t, int> runs_of_processes(const EvidenceSet& evidence) {
  std::map<std::int64_t, int> runs;
  for (const JudgedRun& one : evidence.runs)
    if (is_of_a_block(*one.run)) ++runs[one.run->process];
  return runs;
}

using Cell = std::pair<int, double>;  // Series and place.

/// Median share of frame time in which any thread ran, by cell (CPU clocks are too coarse for single runs). 1 if
/// unknown.
std::map<Cell, double> running_shares(const EvidenceSet& evidence) {
  std::map<Cell, std::vector<double>> shares;
  for (std::size_t i = 0; i < evidence.series.size(); ++i)
    for (const JudgedRun* one : evidence.series[i].runs) {
      const double own_ms = measured_wall_ms(*one->run, true);
      if (one->run->processor_ms && own_ms > 0)
        shares[{static_cast<int>(i), one->x}].push_back(*one->run->processor_ms / own_ms);
    }
  std::map<Cell, double> running;
  for (auto& [cell, of_cell] : shares) {
    const double share = median(of_cell);
    running[cell] = share >= runs_all_the_time ? 1 : share;
  }
  return running;
}

double waiting_of(const Run& run) {
  const double own_ms = measured_wall_ms(run, true);
  return own_ms > 0 ? measured_wall_ms(run) / own_ms - 1 : 0;
}

/// Log scale: unseen waiting, missing cores, readings by eye.
double shared_error(const Head& head, const Run& run, const std::map<const Run*, double>& lacking) {
  const auto found = lacking.find(&run);
  return std::hypot(unseen_waiting(head, run), found == lacking.end() ? 0 : found->second, run.read_share.value_or(0));
}

}  // namespace

ModelRow row_of(const Run& run, int series, const Head& head, std::map<DisturbanceFilter::Kind, int>& kinds) {
  ModelRow row;
  row.series = series;
  row.log_x = std::log(static_cast<double>(run.count));
  row.log_ms = std::log(typical_frame_ms(run));
  row.block = run.block;
  row.order = static_cast<double>(run.order);
  row.waiting = waiting_of(run);
  if (run.yardstick) row.probes = probe_row(*run.yardstick, head, kinds);
  return row;
}

std::vector<ModelRow> model_rows(const EvidenceSet& evidence, bool within_processes) {
  std::map<Series, int, SeriesOrder> numbers;
  for (const SeriesEvidence& one : evidence.series) numbers.emplace(one.series, static_cast<int>(numbers.size()));
  std::map<DisturbanceFilter::Kind, int> kinds;
  const std::map<std::int64_t, int> of_process = runs_of_processes(evidence);
  std::map<Cell, double> running = running_shares(evidence);
  std::map<const Run*, double> lacking;
  for (const SeriesEvidence& one : evidence.series) lacking.merge(lacking_cores(one.runs));
  std::vector<ModelRow> rows;
  for (const JudgedRun& one : evidence.runs) {
    const auto number = numbers.find(one.series);
    if (number == numbers.end() || !is_of_a_block(*one.run) || one.run->samples_ns.empty()) continue;
    const SeriesEvidence& series = evidence.series[static_cast<std::size_t>(number->second)];
    if (series.fails_from && one.x >= *series.fails_from) continue;
    const bool is_mean = series.unevenness != Unevenness::even;
    const auto cost = one.is_evidence ? std::optional(one.typical_ms)
                      : is_mean       ? std::optional(mean_frame_ms(*one.run))
                                      : typical_cost_ms(*one.run, evidence.cost_of);
    if (!cost || !(*cost > 0)) continue;
    ModelRow row{number->second,
                 std::log(one.x),
                 std::log(*cost),
                 one.run->block,
                 static_cast<double>(one.run->order),
                 within_processes || of_process.at(one.run->process) == 1 ? -1 : one.run->process,
                 waiting_of(*one.run),
                 running.emplace(Cell{number->second, one.x}, 1).first->second,
                 shared_error(evidence.head, *one.run, lacking) / normal_95,
                 std::nullopt};
    if (one.run->yardstick) row.probes = probe_row(*one.run->yardstick, evidence.head, kinds);
    rows.push_back(row);
  }
  return rows;
}

}  // namespace mileage
