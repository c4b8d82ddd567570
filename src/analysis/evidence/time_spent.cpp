#include "analysis/evidence/time_spent.h"

#include <algorithm>
#include <numeric>
#include <vector>

#include "analysis/evidence/disturbance_filter.h"
#include "analysis/statistics/statistics.h"

namespace mileage {
namespace {

double seconds(const std::vector<std::int64_t>& samples_ns) {
  return 1e-9 * static_cast<double>(std::accumulate(samples_ns.begin(), samples_ns.end(), std::int64_t{0}));
}

double probing_s(const Run& run) { return run.yardstick ? 1e-9 * run.yardstick->probes * run.yardstick->mean_ns() : 0; }

void add(const Run& run, TimeSpent& spent) {
  spent.whole_s += run.took_s;
  if (run.status == RunStatus::failed) {
    spent.lost_s += run.took_s;
    return;
  }
  if (!is_of_a_block(run)) {
    spent.before_s += run.took_s;
    return;
  }
  spent.frames_s += seconds(run.samples_ns);
  spent.settling_s += seconds(run.warmup_ns);
  spent.set_up_s += 1e-3 * run.setup_ms.value_or(0);
  spent.yardstick_s += probing_s(run);
}

}  // namespace

double overhead_s(const Run& run) {
  return std::max(0.0, run.took_s - seconds(run.samples_ns) - seconds(run.warmup_ns) - probing_s(run));
}

std::optional<TimeSpent> time_spent(const Study& study) {
  TimeSpent spent;
  std::vector<double> overheads_ms;
  for (const Run& run : study.runs) {
    add(run, spent);
    if (is_of_a_block(run)) overheads_ms.push_back(1e3 * overhead_s(run));
  }
  if (spent.whole_s <= 0) return std::nullopt;
  const double told = spent.frames_s + spent.settling_s + spent.set_up_s + spent.yardstick_s + spent.before_s;
  spent.whole_s = std::max(spent.whole_s, told + spent.lost_s);  // Tables may claim more.
  spent.rest_s = spent.whole_s - told - spent.lost_s;
  if (study.head.made_by == MadeBy::commands && !overheads_ms.empty()) spent.overhead_ms = median(overheads_ms);
  return spent;
}

}  // namespace mileage
