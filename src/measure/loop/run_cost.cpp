#include "measure/loop/run_cost.h"

#include <algorithm>
#include <limits>

#include "analysis/evidence/judged_run.h"

namespace mileage {
namespace {

constexpr int min_frames = 3;
/// Of the budget.
constexpr double heavy_share = 0.25;
/// Of the time.
constexpr double dear_share = 0.015;
/// Of the time, at least 1 s.
constexpr double share_for_a_run = 0.1;
/// At one count no other counts need the time.
constexpr double share_at_one_count = 0.3;
constexpr double shortest_limit_s = 1;
/// Of the longest run: a slow moment doubles it.
constexpr double share_of_longest = 0.5;

int within_limit(const Plan& plan, const RunCost& cost, int max, double affordable) {
  const double frames = (share_of_longest * longest_run_s(plan) - cost.beside_s) / cost.frame_s - cost.warmup_frames;
  const auto fewest = static_cast<double>(std::min(min_frames, max));
  return static_cast<int>(std::clamp(std::min(affordable, frames), fewest, static_cast<double>(max)));
}

}  // namespace

double longest_run_s(const Plan& plan) {
  if (plan.time_s <= 0) return std::numeric_limits<double>::infinity();
  const double share = plan.counts.size() == 1 && !plan.aim ? share_at_one_count : share_for_a_run;
  return std::max(shortest_limit_s, share * plan.time_s);
}

int frames_for(const Plan& plan, double fast_ms, const RunCost& cost) {
  const int frames = fast_ms > heavy_share * plan.budget_ms ? plan.heavy_frames : plan.min_frames;
  const double affordable = frames * far_over_budget * plan.budget_ms / fast_ms;
  return within_limit(plan, cost, frames, affordable);
}

int pooled_frames_for(const Plan& plan, const RunCost& cost) {
  return within_limit(plan, cost, max_pooled_frames, max_pooled_frames);
}

RunCost RunCost::at(double times_as_many, double frame_s_there) const {
  RunCost there = *this;
  there.frame_s = frame_s_there;
  there.beside_s = std::min(start_of_run_s, beside_s) + std::max(0.0, beside_s - start_of_run_s) * times_as_many;
  return there;
}

bool is_dear(const Plan& plan, double run_s) { return plan.time_s > 0 && run_s > dear_share * plan.time_s; }

RunCost run_cost_of(const Run& range_finding) {
  RunCost cost;
  cost.warmup_frames = static_cast<double>(range_finding.warmup_ns.size());
  const double frames = cost.warmup_frames + static_cast<double>(range_finding.measured_frames());
  cost.frame_s = typical_frame_ms(range_finding) * 1e-3 + range_finding.walked_ms * 1e-3 / frames;
  // A killed run took longer than it needed.
  const double needed_s = range_finding.left_behind > 0 ? 0 : range_finding.took_s - frames * cost.frame_s;
  cost.beside_s = std::max(start_of_run_s / 4, needed_s);
  return cost;
}

double predicted_s(const Plan& plan, const Series& series, const RunCost& cost, int frames) {
  const double min_s = series.is_cold() ? 0 : plan.min_ms * 1e-3;
  return cost.beside_s + cost.warmup_frames * cost.frame_s + std::max(frames * cost.frame_s, min_s);
}

}  // namespace mileage
