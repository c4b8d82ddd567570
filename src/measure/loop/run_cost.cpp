#include "measure/loop/run_cost.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include "analysis/evidence/judged_run.h"

namespace mileage {
namespace {

/// Exponents of growth are estimated from counts at least this ratio apart, within these bounds.
constexpr double growth_shows_from = 2;
constexpr double min_growth = 1;
constexpr double max_growth = 3;
constexpr double unknown_growth = 2;
constexpr int min_frames = 3;
/// Of the budget.
constexpr double heavy_share = 0.25;
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

RunCost run_cost_of(const Run& run) {
  RunCost cost;
  cost.warmup_frames = static_cast<double>(run.warmup_ns.size());
  const double frames = cost.warmup_frames + static_cast<double>(run.measured_frames());
  cost.frame_s = typical_frame_ms(run) * 1e-3 + run.walked_ms * 1e-3 / frames;
  // A killed run took longer than it needed.
  const double needed_s = run.left_behind > 0 ? 0 : run.took_s - frames * cost.frame_s;
  cost.beside_s = std::max(start_of_run_s / 4, needed_s);
  return cost;
}

const std::pair<const std::int64_t, KnownCosts::Known>& KnownCosts::near(std::int64_t count) const {
  const auto above = by_count_.lower_bound(count);
  return above == by_count_.end() ? *by_count_.rbegin() : *above;
}

double KnownCosts::growth_at_the_end() const {
  if (by_count_.size() < 2) return 1;
  const auto last = std::prev(by_count_.end()), before = std::prev(last);
  return std::log(last->second.fast_ms / before->second.fast_ms) /
         std::log(static_cast<double>(last->first) / static_cast<double>(before->first));
}

double KnownCosts::fast_ms(std::int64_t count) const {
  const auto& [there, known] = near(count);
  return known.fast_ms * static_cast<double>(count) / static_cast<double>(there);
}

RunCost KnownCosts::at(std::int64_t count) const {
  const auto& [there, known] = near(count);
  const double times = static_cast<double>(count) / static_cast<double>(there);
  return known.cost.at(times, known.cost.frame_s * times);
}

RunCost KnownCosts::with_growth_at(std::int64_t count) const {
  RunCost cost = at(count);
  if (count <= largest()) return cost;
  const double last_s = by_count_.rbegin()->second.cost.frame_s;
  double growth = unknown_growth;
  for (const auto& [smaller, known] : by_count_) {
    const double times = static_cast<double>(largest()) / static_cast<double>(smaller);
    if (times >= growth_shows_from)
      growth = std::clamp(std::log(last_s / known.cost.frame_s) / std::log(times), min_growth, max_growth);
  }
  cost.frame_s = last_s * std::pow(static_cast<double>(count) / static_cast<double>(largest()), growth);
  return cost;
}

double predicted_s(const Plan& plan, const Series& series, const RunCost& cost, int frames) {
  const double min_s = series.is_cold() ? 0 : plan.min_ms * 1e-3;
  return cost.beside_s + cost.warmup_frames * cost.frame_s + std::max(frames * cost.frame_s, min_s);
}

}  // namespace mileage
