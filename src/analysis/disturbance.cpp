#include "analysis/disturbance.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <tuple>

#include "analysis/evidence.h"

namespace mileage {
namespace {

constexpr double condemned_above = 1.34;
/// Readings within this factor belong to one speed of the machine.
constexpr double same_speed_within = 1.15;
constexpr std::size_t visits_for_correlation = 30;

/// Pairs of logarithms, each less the mean of its cell.
struct Deviations {
  std::vector<double> cost;
  std::vector<double> level;
};

Deviations deviations_of(const Study& study) {
  std::map<std::tuple<std::string, Knobs, std::int64_t>, std::vector<const Visit*>> cells;
  for (const Visit& visit : study.visits)
    if (visit.counts_as_evidence() && visit.yardstick) cells[{visit.series.variant, visit.series.knobs, visit.count}].push_back(&visit);
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

}  // namespace

void YardstickJudge::add(const Visit& visit) {
  if (!visit.yardstick) return;
  readings_.push_back(visit.yardstick->before.arithmetic_ns);
  readings_.push_back(visit.yardstick->after.arithmetic_ns);
}

std::optional<double> YardstickJudge::level_ns() const {
  if (readings_.empty()) return std::nullopt;
  std::vector<double> sorted = readings_;
  std::sort(sorted.begin(), sorted.end());
  const double half = *(sorted.begin() + static_cast<std::ptrdiff_t>((sorted.size() - 1) / 2));
  return *std::lower_bound(sorted.begin(), sorted.end(), half / same_speed_within);
}

bool YardstickJudge::is_slow_throughout() const {
  const auto level = level_ns();
  return level && remembered_ns_ && *level > same_speed_within * *remembered_ns_;
}

std::optional<double> YardstickJudge::limit_ns() const {
  const auto level = level_ns();
  return level ? std::optional(condemned_above * *level) : std::nullopt;
}

bool YardstickJudge::condemns(const Visit& visit) const {
  const auto limit = limit_ns();
  return limit && visit.yardstick && visit.yardstick->level_ns() > *limit;
}

Quietness quietness_of(const Study& study) {
  Quietness quiet;
  quiet.remembered_ns = study.head.remembered_yardstick_ns;
  YardstickJudge judge(quiet.remembered_ns);
  for (const Visit& visit : study.visits) {
    judge.add(visit);
    quiet.repeated += visit.status == VisitStatus::repeated;
    quiet.waited_s += visit.waited_s;
    if (!visit.counts_as_evidence()) continue;
    ++quiet.kept;
    quiet.busy_cores += visit.load.busy_cores;
    quiet.stolen_share += visit.load.stolen_share;
  }
  if (quiet.kept > 0) {
    quiet.busy_cores /= static_cast<double>(quiet.kept);
    quiet.stolen_share /= static_cast<double>(quiet.kept);
  }
  quiet.level_ns = judge.level_ns();
  quiet.slow_throughout = judge.is_slow_throughout();
  quiet.follows_yardstick = correlation(deviations_of(study));
  return quiet;
}

}  // namespace mileage
