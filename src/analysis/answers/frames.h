// Frames: one cell frame by frame. Height, rate, phase and period of spikes; warm-up; frames over budget and the
// longest streak of those.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "analysis/statistics/interval.h"
#include "analysis/statistics/periods.h"
#include "study/study.h"

namespace mileage {

struct Analysis;
struct Questions;

/// Share of a phase in the extra time of spikes.
struct SpikePart {
  std::string phase;  ///< Empty outside phases.
  double share = 0;
};

/// A spike: up to five frames that take 1.5x the frames around them and the typical frame. Slow periods of the machine
/// are longer.
struct Spikes {
  std::size_t seen = 0;
  double a_thousand_frames = 0;
  Interval rate_interval;   ///< Over runs; open below three.
  double times_around = 0;  ///< Median ratio to the frames around it.
  double worst_ms = 0;
  std::optional<Period> period;
  /// Of traced runs, largest first.
  std::vector<SpikePart> parts;
};

/// First frames after arrivals, or after set-up.
struct Settling {
  bool after_arrival = false;
  std::size_t seen = 0;   ///< Number of runs.
  double from_ms = 0;     ///< Highest of the first frames: median over runs.
  double frames = 0;      ///< Median until frames stay within 10 % of the warmed-up one.
  double takes_ms = 0;    ///< Their total time.
  std::size_t never = 0;  ///< Runs that never settled.
};

/// Warm-up length over number of arrivals, from three sizes.
struct SettlingLaw {
  double exponent = 0;
  Interval interval;
};

struct FrameAfter {
  std::size_t number = 0;  ///< From 0.
  double typical_ms = 0;   ///< Median over runs.
  double worst_ms = 0;     ///< Over runs.
};

/// Work of a cell's workers, if noted: means over runs, per frame.
struct WorkShare {
  std::vector<double> busy_ms;  ///< By worker, busiest first.
  double entities = 0;          ///< Total per frame.
  double batches = 0;
  double largest_ms = 0;
  /// Nothing if several frames are timed at once.
  std::optional<double> before_ms;         ///< Until the first batch.
  std::optional<double> after_ms;          ///< After the last batch.
  std::optional<double> idle_share;        ///< Of the workers' time in between.
  std::optional<double> balance_saves_ms;  ///< Frame time saved by an even split.
  Interval balance_interval;               ///< Over runs; open below three.
};

struct CellFrames {
  std::size_t series = 0;
  double x = 0;
  std::optional<double> asked_at;
  std::size_t runs = 0;
  std::size_t traced = 0;  ///< Runs with phases frame by frame.
  std::size_t frames = 0;
  int frames_per_sample = 1;      ///< Above 1 single frames are unknown, and the rest is empty.
  double typical_ms = 0;          ///< Median, uncorrected.
  std::optional<double> cost_ms;  ///< Corrected, as `cost` reports it.
  Spikes spikes;
  std::optional<Settling> settling;
  std::optional<SettlingLaw> settling_law;
  std::optional<WorkShare> work;
  double share_over = 0;  ///< Of frames.
  Interval share_over_interval;
  std::size_t longest_run_over = 0;  ///< Consecutive frames over budget.
  double worst_ms = 0;
  std::vector<FrameAfter> beginning;  ///< First frames after arrival or set-up.
  std::vector<double> sorted_ms;      ///< Ascending, thinned to 400.
};

struct FramesAnswer {
  double budget_ms = 0;
  std::vector<CellFrames> cells;
};

/// CSV of the traced runs' batches: series, place, run, frame, worker, begin_ms and end_ms after the frame's start,
/// entities.
std::string spans_csv(const Analysis& analysis, const FramesAnswer& answer);

/// One cell per series (or variant of Questions::between): the measured place nearest to the first one asked for, or
/// else the largest whose typical frame fits the first budget, or the smallest. Wall times, as players see them;
/// waiting for a core counts, but not as a spike.
FramesAnswer frames_answer(const Analysis& analysis, const Questions& questions);

}  // namespace mileage
