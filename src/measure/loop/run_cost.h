// Frames and duration of runs.
#pragma once

#include "study/study.h"

namespace mileage {

/// Range finding ends here; frames further over get fewer per run.
inline constexpr double far_over_budget = 1.6;
/// Starting a process, until known.
inline constexpr double start_of_run_s = 0.02;

/// Infinite without a time.
double longest_run_s(const Plan& plan);

struct RunCost {
  double beside_s = start_of_run_s;  ///< Start, set-up, end.
  double warmup_frames = 4;
  double frame_s = 0;  ///< Walk included.

  /// At another count: set-up scales in proportion.
  RunCost at(double times_as_many, double frame_s_there) const;
};

/// Fewer for heavy frames and far over budget, at most what fits into the longest run, at least three. `fast_ms`: at
/// full speed.
int frames_for(const Plan& plan, double fast_ms, const RunCost& cost);

/// For 99 %: five blocks of two neighbouring counts pool a thousand.
inline constexpr int max_pooled_frames = 100;
/// Limited by the longest run, at least three.
int pooled_frames_for(const Plan& plan, const RunCost& cost);

/// Whether blocks need its time more than another range-finding run.
bool is_dear(const Plan& plan, double run_s);

/// A killed run only has frame times.
RunCost run_cost_of(const Run& range_finding);

/// In a block.
double predicted_s(const Plan& plan, const Series& series, const RunCost& cost, int frames);

}  // namespace mileage
