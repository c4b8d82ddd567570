// How many frames a run has, and how long it will take.
#pragma once

#include "study/study.h"

namespace mileage {

/// A series is not placed beyond a count whose range-finding run is this many times over the budget, and a frame
/// farther over it gets fewer frames.
inline constexpr double far_over_budget = 1.6;
/// What a run costs besides its frames, until it is known: starting a process.
inline constexpr double start_of_run_s = 0.02;

/// The longest that a run may take: a share of the time allowed. Infinite where there is no such time.
double longest_run_s(const Plan& plan);

/// What a run of a cell takes.
struct RunCost {
  double beside_s = start_of_run_s;  ///< Starting, setting up, ending.
  double warmup_frames = 4;
  double frame_s = 0;  ///< A frame, with the walk behind it where the series is cold.

  /// The same at another count: frames take `frame_s` there, and setting up takes in proportion.
  RunCost at(double times_as_many, double frame_s_there) const;
};

/// Frames of a run: fewer where they are heavy, and fewer still where they are far over the budget; no more than
/// leave a good part of the longest run free; three at least.
/// `fast_ms`: a frame on the machine at full speed, as it counts for the budget.
int frames_for(const Plan& plan, double fast_ms, const RunCost& cost);

/// Frames of a run that 99 % of frames are known from, where none is cut: five blocks of two neighbouring counts pool
/// a thousand.
inline constexpr int max_pooled_frames = 100;
/// As many of these as leave a good part of the longest run free; three at least.
int pooled_frames_for(const Plan& plan, const RunCost& cost);

/// Whether a run takes so much of the time allowed that blocks need it more than a further look.
bool is_dear(const Plan& plan, double run_s);

/// As a range-finding run tells it. Of one that had to be ended nothing is known but its frames.
RunCost run_cost_of(const Run& range_finding);

/// Time of a run of this many frames in a block.
double predicted_s(const Plan& plan, const Series& series, const RunCost& cost, int frames);

}  // namespace mileage
