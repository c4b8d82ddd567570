// Frames and duration of runs.
#pragma once

#include <map>

#include "study/study.h"

namespace mileage {

/// Range finding ends here; frames further over get fewer per run.
inline constexpr double far_over_budget = 1.6;
/// Starting a process, until known.
inline constexpr double start_of_run_s = 0.02;

/// Of the goal, or of the plan.
inline double goal_budget_ms(const Plan& plan) {
  return plan.goal.budget_ms > 0 ? plan.goal.budget_ms : plan.budget_ms;
}

/// Infinite without a time.
double longest_run_s(const Plan& plan);

struct RunCost {
  double beside_s = start_of_run_s;  ///< Start, set-up, end.
  double warmup_frames = 4;
  double frame_s = 0;  ///< Walk included.

  /// At another count: set-up scales in proportion.
  RunCost at(double times_as_many, double frame_s_there) const;
};

/// A killed run only has frame times.
RunCost run_cost_of(const Run& run);

/// What runs of a series took, by count. The latest one counts: the machine is most likely as slow as then.
class KnownCosts {
 public:
  /// `fast_ms`: a frame at full speed, > 0.
  void add(std::int64_t count, const RunCost& cost, double fast_ms) { by_count_[count] = {cost, fast_ms}; }

  bool empty() const { return by_count_.empty(); }
  bool knows(std::int64_t count) const { return by_count_.count(count) > 0; }
  /// Of all; not empty.
  std::int64_t smallest() const { return by_count_.begin()->first; }
  std::int64_t largest() const { return by_count_.rbegin()->first; }

  /// Exponent of growth between the two largest counts; linear with fewer.
  double growth_at_the_end() const;
  /// From the nearest count, scaled in proportion. Not empty.
  double fast_ms(std::int64_t count) const;
  RunCost at(std::int64_t count) const;
  /// Beyond the largest count frames grow with their exponent so far, or quadratically.
  RunCost with_growth_at(std::int64_t count) const;

 private:
  struct Known {
    RunCost cost;
    double fast_ms = 0;
  };
  const std::pair<const std::int64_t, Known>& near(std::int64_t count) const;

  std::map<std::int64_t, Known> by_count_;
};

/// Fewer for heavy frames and far over budget, at most what fits into the longest run, at least three. `fast_ms`: at
/// full speed.
int frames_for(const Plan& plan, double fast_ms, const RunCost& cost);

/// For 99 %: five rounds of two neighbouring counts pool a thousand.
inline constexpr int max_pooled_frames = 100;
/// Limited by the longest run, at least three.
int pooled_frames_for(const Plan& plan, const RunCost& cost);

/// In a block.
double predicted_s(const Plan& plan, const Series& series, const RunCost& cost, int frames);

}  // namespace mileage
