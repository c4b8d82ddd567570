// A run as the analysis sees it: where it stands, and whether answers rest on it.
#pragma once

#include <optional>

#include "study/study.h"

namespace mileage {

/// What the cost of a frame is counted in.
enum class CostOf {
  frame,         ///< Wall time.
  frame_thread,  ///< Time in which the main thread was busy: what is left of it serves the rest of the game.
  processor,     ///< Processor time of all threads.
  energy         ///< Of the whole machine, in millijoules instead of milliseconds.
};

/// Counter that holds the energy of a run's frames.
inline constexpr const char* joules_counter = "joules";

struct JudgedRun {
  const Run* run = nullptr;  ///< In the study, which must outlive this.
  Series series;             ///< What it is evidence for; divided by count where another axis is asked for.
  double x = 0;              ///< Place on the axis.
  int block = 0;
  bool is_evidence = false;  ///< Made in a block, with samples, and not condemned by the judge of the whole study.
  double typical_ms = 0;     ///< Cost of a frame, typical or mean (uneven.h); 0 unless it is evidence.
  double log_slowdown = 0;   ///< Of the machine during it, by its probes; 0 without.
};

/// Time of a sample without what its threads waited for a core that others had, in nanoseconds.
std::int64_t own_ns(const Run& run, std::size_t sample);

/// Of all measured frames, in milliseconds; `own`: without what their threads waited for a core that others had.
double measured_wall_ms(const Run& run, bool own = false);

/// Typical cost of a run, in milliseconds: exp of the mean log own time per frame without the shortest and the
/// longest 5 % of its samples (one at each end below twenty, none below three). Where the machine's speed flips, frames
/// lie around two slowdowns: their median jumps when the majority changes, the mean of logs is linear in the share. The
/// run must have samples.
double typical_frame_ms(const Run& run);

/// Mean cost of a frame of a run, in milliseconds, without what its threads waited for a core that others had.
double mean_frame_ms(const Run& run);

/// What the machine drew while the frames of a run ran, in watts (millijoules a millisecond); nothing where nobody
/// told.
std::optional<double> power_of(const Run& run);

/// The same of what else a frame may cost: its share of the frames' own time, times that. Nothing where the run does
/// not have it.
std::optional<double> typical_cost_ms(const Run& run, CostOf what);

}  // namespace mileage
