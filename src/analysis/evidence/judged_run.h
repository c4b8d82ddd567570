// A run as the analysis uses it.
#pragma once

#include <optional>

#include "study/study.h"

namespace mileage {

/// The cost of a frame.
enum class CostOf {
  frame,         ///< Wall time.
  frame_thread,  ///< Busy time of the main thread; the rest is available to the game.
  processor,     ///< CPU time of all threads.
  energy         ///< Of the whole machine, in mJ instead of ms.
};

/// Counter with the energy of a run's frames.
inline constexpr const char* joules_counter = "joules";

struct JudgedRun {
  const Run* run = nullptr;  ///< The study must outlive it.
  Series series;             ///< Split by count on other axes.
  double x = 0;              ///< On the axis.
  int block = 0;
  bool is_evidence = false;  ///< Of a block, with samples, not discarded.
  double typical_ms = 0;     ///< Cost per frame, typical or mean (uneven.h); 0 without evidence.
  double log_slowdown = 0;   ///< By its probes; 0 without.
};

/// Without waiting for a core.
std::int64_t own_ns(const Run& run, std::size_t sample);

/// All measured frames; `own`: without waiting for a core.
double measured_wall_ms(const Run& run, bool own = false);

/// exp of the mean log own time per frame, without the shortest and longest 5 % of samples (one each below twenty, none
/// below three). On a machine that alternates between two speeds a median jumps; this mean is linear in their shares.
/// Needs samples.
double typical_frame_ms(const Run& run);

/// Without waiting for a core.
double mean_frame_ms(const Run& run);

/// In watts (mJ/ms); nothing if unknown.
std::optional<double> power_of(const Run& run);

/// The same for other costs: cost / own time, times that. Nothing if the run lacks it.
std::optional<double> typical_cost_ms(const Run& run, CostOf what);

}  // namespace mileage
