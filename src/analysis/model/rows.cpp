#include "analysis/model/rows.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "analysis/evidence/by_series.h"

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

double waiting_of(const Run& run) {
  const double own_ms = measured_wall_ms(run, true);
  return own_ms > 0 ? measured_wall_ms(run) / own_ms - 1 : 0;
}

}  // namespace

std::vector<ModelRow> model_rows(const EvidenceSet& evidence) {
  std::map<Series, int, SeriesOrder> numbers;
  for (const SeriesEvidence& one : evidence.series) numbers.emplace(one.series, static_cast<int>(numbers.size()));
  std::map<DisturbanceFilter::Kind, int> kinds;
  const bool made_by_game = evidence.head.made_by == MadeBy::game;
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
                 made_by_game ? one.run->process : -1,
                 waiting_of(*one.run),
                 std::nullopt};
    if (one.run->yardstick) row.probes = probe_row(*one.run->yardstick, evidence.head, kinds);
    rows.push_back(row);
  }
  return rows;
}

}  // namespace mileage
