// How many frames a visit has, and how long it will take.
#pragma once

#include "study/study.h"

namespace mileage {

/// A series is not placed beyond a count whose placing visit is so many times over the budget, and a frame farther over
/// it gets fewer frames.
inline constexpr double far_over_budget = 1.6;
/// What a visit costs besides its frames, until it is known: starting a process.
inline constexpr double start_of_visit_s = 0.02;

/// The longest that a visit may take: a share of the time allowed. Infinite where there is no such time.
double longest_visit_s(const Plan& plan);

/// What a visit of a cell takes.
struct VisitCost {
  double beside_s = start_of_visit_s;  ///< Starting, setting up, ending.
  double warmup_frames = 4;
  double frame_s = 0;  ///< A frame, with the walk behind it where the series is cold.

  /// The same at another count: frames take `frame_s` there, and setting up takes in proportion.
  VisitCost at(double times_as_many, double frame_s_there) const;
};

/// Frames of a visit: fewer where they are heavy, and fewer still where they are far over the budget; no more than
/// leave a good part of the longest visit free; three at least.
/// `fast_ms`: a frame on the machine at its fast level, as it counts for the budget.
int frames_for(const Plan& plan, double fast_ms, const VisitCost& cost);

/// Frames of a visit that 99 % of frames are told from, where none is cut: five blocks of two neighbouring counts pool
/// a thousand.
inline constexpr int most_pooled_frames = 100;
/// As many of these as leave a good part of the longest visit free; three at least.
int pooled_frames_for(const Plan& plan, const VisitCost& cost);

/// Whether a visit takes so much of the time allowed that blocks need it more than a further look.
bool is_dear(const Plan& plan, double visit_s);

/// As a placing visit tells it. Of one that had to be ended nothing is known but its frames.
VisitCost visit_cost_of(const Visit& placing);

/// Time of a visit of so many frames in a block.
double predicted_s(const Plan& plan, const Series& series, const VisitCost& cost, int frames);

}  // namespace mileage
