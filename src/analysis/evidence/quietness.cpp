#include "analysis/evidence/quietness.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <tuple>

#include "analysis/statistics/constants.h"
#include "analysis/statistics/statistics.h"

namespace mileage {
namespace {

using Evidence = std::vector<const JudgedVisit*>;

/// Pairs of logarithms, each less the mean of its cell.
struct Deviations {
  std::vector<double> cost;
  std::vector<double> level;
};

Deviations deviations_of(const Evidence& evidence) {
  std::map<std::tuple<std::string, Knobs, std::int64_t>, Evidence> cells;
  for (const JudgedVisit* one : evidence)
    if (one->visit->yardstick) cells[{one->series.variant, one->series.knobs, one->visit->count}].push_back(one);
  Deviations all;
  for (const auto& [cell, visits] : cells) {
    double cost = 0;
    double level = 0;
    for (const JudgedVisit* one : visits) {
      cost += std::log(one->typical_ms) / static_cast<double>(visits.size());
      level += std::log(one->visit->yardstick->level_ns()) / static_cast<double>(visits.size());
    }
    for (const JudgedVisit* one : visits) {
      all.cost.push_back(std::log(one->typical_ms) - cost);
      all.level.push_back(std::log(one->visit->yardstick->level_ns()) - level);
    }
  }
  return all;
}

void read_load(const Evidence& evidence, Quietness& quiet) {
  double busy = 0, stolen = 0, told = 0;
  for (const JudgedVisit* one : evidence) {
    const auto& load = one->visit->load;
    if (!load) continue;
    busy += load->busy_cores;
    stolen += load->stolen_share;
    ++told;
  }
  if (told == 0) return;
  quiet.busy_cores = busy / told;
  quiet.stolen_share = stolen / told;
}

}  // namespace

Quietness quietness_of(const std::vector<JudgedVisit>& visits, const YardstickJudge& judge) {
  Quietness quiet;
  Evidence evidence;
  for (const JudgedVisit& one : visits) {
    if (one.is_evidence) evidence.push_back(&one);
    quiet.condemned += is_of_a_block(*one.visit) && judge.condemns(*one.visit);
    quiet.waited_s += one.visit->waited_s;
  }
  quiet.kept = evidence.size();
  read_load(evidence, quiet);
  quiet.remembered_ns = judge.remembered_ns();
  quiet.level_ns = judge.level_ns();
  quiet.slow_throughout = judge.is_slow_throughout();
  const Deviations deviations = deviations_of(evidence);
  if (deviations.cost.size() >= visits_for_correlation)
    quiet.follows_yardstick = correlation(deviations.cost, deviations.level);
  return quiet;
}

}  // namespace mileage
