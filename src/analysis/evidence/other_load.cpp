#include "analysis/evidence/other_load.h"

#include <algorithm>
#include <cmath>
#include <optional>

#include "analysis/statistics/constants.h"
#include "analysis/statistics/statistics.h"

namespace mileage {
namespace {

/// Linked variants, programs that record themselves, and driven ones that reported any.
bool has_waiting(const Head& head, const Run& run) {
  return head.made_by == MadeBy::program ||
         (head.made_by == MadeBy::commands && run.yardstick && !run.yardstick->program.empty()) ||
         (head.made_by == MadeBy::game && !run.waited_ns.empty());
}

struct Took {
  double wall_ms = 0, own_ms = 0, processor_ms = 0;
};

/// Nothing without processor time.
std::optional<Took> took(const Run& run) {
  if (!run.processor_ms || *run.processor_ms <= 0 || run.samples_ns.empty()) return std::nullopt;
  Took all{0, 0, *run.processor_ms};
  for (std::size_t sample = 0; sample < run.samples_ns.size(); ++sample) {
    all.wall_ms += 1e-6 * static_cast<double>(run.samples_ns[sample]);
    all.own_ms += 1e-6 * static_cast<double>(own_ns(run, sample));
  }
  return all;
}

/// Cores used at the place with the most, without waiting.
int max_cores(const JudgedRuns& runs) {
  std::map<double, std::vector<double>> cores;
  for (const JudgedRun* one : runs)
    if (const auto all = took(*one->run)) cores[one->x].push_back(all->processor_ms / all->own_ms);
  double max = 1;
  for (auto& [x, of_place] : cores) max = std::max(max, median(of_place));
  return static_cast<int>(std::lround(max));
}

/// Between frame time and CPU time evenly split over `cores`.
double lost_in(const Run& run, int cores) {
  const auto all = took(run);
  if (!all || !run.load || !run.load->waiting_share) return 0;
  if (run.load->busy_cores - all->processor_ms / all->wall_ms < others_on_cores) return 0;
  const double lacking =
      std::clamp((*run.load->waiting_share - cores_may_lack_from) / (cores_lack_from - cores_may_lack_from), 0.0, 1.0);
  return lacking * std::max(0.0, std::log(all->own_ms * cores / all->processor_ms));
}

}  // namespace

double unseen_waiting(const Head& head, const Run& run) {
  return run.load && run.load->waiting_share && !has_waiting(head, run) ? std::log1p(*run.load->waiting_share) : 0;
}

std::map<const Run*, double> lacking_cores(const JudgedRuns& runs) {
  std::map<const Run*, double> lacking;
  const int cores = max_cores(runs);
  if (cores < 2) return lacking;
  for (const JudgedRun* one : runs)
    if (const double lost = lost_in(*one->run, cores); lost > 0) lacking[one->run] = lost;
  return lacking;
}

}  // namespace mileage
