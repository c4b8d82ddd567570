#include "analysis/disturbance.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <tuple>

#include "analysis/evidence.h"
#include "analysis/yardstick_judge.h"

namespace mileage {
namespace {

constexpr std::size_t visits_for_correlation = 30;

/// Pairs of logarithms, each less the mean of its cell.
struct Deviations {
  std::vector<double> cost;
  std::vector<double> level;
};

Deviations deviations_of(const std::vector<const Visit*>& evidence) {
  std::map<std::tuple<std::string, Knobs, std::int64_t>, std::vector<const Visit*>> cells;
  for (const Visit* visit : evidence)
    if (visit->yardstick) cells[{visit->series.variant, visit->series.knobs, visit->count}].push_back(visit);
  Deviations all;
  for (const auto& [cell, visits] : cells) {
    double cost = 0;
    double level = 0;
    for (const Visit* visit : visits) {
      cost += std::log(typical_frame_ms(*visit)) / static_cast<double>(visits.size());
      level += std::log(visit->yardstick->level_ns()) / static_cast<double>(visits.size());
    }
    for (const Visit* visit : visits) {
      all.cost.push_back(std::log(typical_frame_ms(*visit)) - cost);
      all.level.push_back(std::log(visit->yardstick->level_ns()) - level);
    }
  }
  return all;
}

std::optional<double> correlation(const Deviations& all) {
  if (all.cost.size() < visits_for_correlation) return std::nullopt;
  double products = 0, costs = 0, levels = 0;
  for (std::size_t i = 0; i < all.cost.size(); ++i) {
    products += all.cost[i] * all.level[i];
    costs += all.cost[i] * all.cost[i];
    levels += all.level[i] * all.level[i];
  }
  if (costs <= 0 || levels <= 0) return std::nullopt;
  return products / std::sqrt(costs * levels);
}

void read_load(const std::vector<const Visit*>& evidence, Quietness& quiet) {
  double busy = 0, stolen = 0, told = 0;
  for (const Visit* visit : evidence) {
    if (!visit->load) continue;
    busy += visit->load->busy_cores;
    stolen += visit->load->stolen_share;
    ++told;
  }
  if (told == 0) return;
  quiet.busy_cores = busy / told;
  quiet.stolen_share = stolen / told;
}

}  // namespace

Quietness quietness_of(const Study& study) {
  const std::vector<const Visit*> evidence = evidence_visits(study);
  const YardstickJudge judge = judge_of(study);
  Quietness quiet;
  quiet.kept = evidence.size();
  for (const Visit& visit : study.visits) {
    quiet.condemned += (visit.status == VisitStatus::kept || visit.status == VisitStatus::repeated) && judge.condemns(visit);
    quiet.waited_s += visit.waited_s;
  }
  read_load(evidence, quiet);
  quiet.remembered_ns = study.head.remembered_yardstick_ns;
  quiet.level_ns = judge.level_ns();
  quiet.slow_throughout = judge.is_slow_throughout();
  quiet.follows_yardstick = correlation(deviations_of(evidence));
  return quiet;
}

}  // namespace mileage
