// How many frames a visit has, and how long it will take.
#pragma once

#include "study/study.h"

namespace mileage {

/// A series is not placed beyond a count whose placing visit is so many times over the budget, and a frame farther over
/// it gets fewer frames.
inline constexpr double far_over_budget = 1.6;
/// What a visit costs besides its frames, until it is known: starting a process.
inline constexpr double start_of_visit_s = 0.02;

/// Frames of a visit: more where 99 % of them are the goal, fewer where they are heavy, and fewer still where they are
/// far over the budget; three at least.
int frames_for(const Plan& plan, double frame_ms);

/// What a visit of a cell takes.
struct VisitCost {
  double beside_s = start_of_visit_s;  ///< Starting, setting up, ending.
  double warmup_frames = 4;
  double frame_s = 0;  ///< A frame, with the walk behind it where the series is cold.

  /// The same at another count: frames take `frame_s` there, and setting up takes in proportion.
  VisitCost at(double times_as_many, double frame_s_there) const;
};

/// Whether a visit takes so much of the time allowed that blocks need it more than a further look.
bool is_dear(const Plan& plan, double visit_s);

/// As a placing visit tells it. Of one that had to be ended nothing is known but its frames.
VisitCost visit_cost_of(const Visit& placing);

/// Time of a visit of so many frames in a block.
double predicted_s(const Plan& plan, const Series& series, const VisitCost& cost, int frames);

}  // namespace mileage
