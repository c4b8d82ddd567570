#include "analysis/evidence/time_spent.h"

#include <algorithm>
#include <numeric>
#include <vector>

#include "analysis/evidence/yardstick_judge.h"
#include "analysis/statistics/statistics.h"

namespace mileage {
namespace {

double seconds(const std::vector<std::int64_t>& samples_ns) {
  return 1e-9 * static_cast<double>(std::accumulate(samples_ns.begin(), samples_ns.end(), std::int64_t{0}));
}

double probing_s(const Visit& visit) {
  return visit.yardstick ? 1e-9 * visit.yardstick->probes * visit.yardstick->level_ns() : 0;
}

void add(const Visit& visit, TimeSpent& spent) {
  spent.whole_s += visit.took_s;
  if (visit.status == VisitStatus::failed) {
    spent.lost_s += visit.took_s;
    return;
  }
  if (!is_of_a_block(visit)) {
    spent.before_s += visit.took_s;
    return;
  }
  spent.frames_s += seconds(visit.samples_ns);
  spent.settling_s += seconds(visit.warmup_ns);
  spent.set_up_s += 1e-3 * visit.setup_ms.value_or(0);
  spent.yardstick_s += probing_s(visit);
}

}  // namespace

double besides_frames_s(const Visit& visit) {
  return std::max(0.0, visit.took_s - seconds(visit.samples_ns) - seconds(visit.warmup_ns) - probing_s(visit));
}

std::optional<TimeSpent> time_spent(const Study& study) {
  TimeSpent spent;
  std::vector<double> besides_ms;
  for (const Visit& visit : study.visits) {
    add(visit, spent);
    if (is_of_a_block(visit)) besides_ms.push_back(1e3 * besides_frames_s(visit));
  }
  if (spent.whole_s <= 0) return std::nullopt;
  const double told = spent.frames_s + spent.settling_s + spent.set_up_s + spent.yardstick_s + spent.before_s;
  spent.whole_s = std::max(spent.whole_s, told + spent.lost_s);  // tables may claim more than there was
  spent.rest_s = spent.whole_s - told - spent.lost_s;
  if (study.head.made_by == MadeBy::commands && !besides_ms.empty()) spent.besides_frames_ms = median(besides_ms);
  return spent;
}

}  // namespace mileage
