// A study being measured. The phases of the loop (checking.h, range_finding.h, aim_counts.h, blocks.h) advance it.
#pragma once

#include <map>
#include <optional>
#include <utility>
#include <vector>

#include "measure/loop/aiming.h"
#include "measure/loop/block_order.h"
#include "measure/loop/run_cost.h"
#include "measure/loop/run_recorder.h"

namespace mileage {

/// A run whose outcome is to be compared.
struct DrawnRun {
  Cell cell;
  int frames = 0;
  double takes_s = 0;  ///< Upper bound.
};

/// Of a reference that is no series, by count.
struct ReferenceCosts {
  Series reference;
  std::map<std::int64_t, RunCost> run_costs;
};

struct StudyState {
  /// Arguments must outlive it.
  StudyState(const Head& head, const std::vector<Run>& made, Runner& runner, Clock& clock, const Watch& watch);

  /// Asks the watch; a stop is final.
  bool is_stop_asked();
  std::size_t index_of(const Series& series) const;
  /// Its outcome agrees, and it did not time out there.
  bool may_run(std::size_t series, std::int64_t count) const;
  /// Repeats a run that timed out unexpectedly (the machine stood still) if time remains. A series that times out by
  /// itself ends at that count.
  Run run(const Order& order, double foreseen_s, Progress& progress);
  /// A run timed out there.
  void end_at(std::size_t series, std::int64_t count);
  /// True without a time.
  bool has_spent_less_than(double share) const;
  void drop_excluded_aims();
  /// Unless it is measured after all.
  void leave_out(std::size_t series, std::int64_t count, LeftOutWhy why) { left_out[{series, count}] = why; }

  const Head& head;
  const Plan& plan;
  const Watch& watch;
  RunRecorder recorder;

  std::vector<bool> is_excluded;   ///< By series.
  std::vector<std::int64_t> ends;  ///< By series: smallest count that timed out, or the maximum.
  std::vector<RoughCosts> costs;   ///< By series, from runs so far.
  std::vector<std::map<std::int64_t, RunCost>> run_costs;               ///< By series, whole runs.
  std::vector<ReferenceCosts> reference_costs;                          ///< Unmeasured ones, from checks.
  std::map<std::pair<std::size_t, std::int64_t>, LeftOutWhy> left_out;  ///< By series and count.
  std::vector<Cell> ladder;                                             ///< Plan counts that each series reached.
  std::vector<Aim> aims;
  std::vector<Cell> cells;  ///< What a block runs.

  double overrun = 1;  ///< Last block's time / predicted.
  double blocks_since_s = 0;
  int blocks_planned = 0;         ///< By plan, or stage of a precision.
  bool is_cut_short = false;      ///< By time or the watch.
  std::optional<DrawnRun> drawn;  ///< Waiting for time.
  double run_checks_s = 0;
  int blocks_looked_at = 0;  ///< When precision was last estimated.
  double look_took_s = 0;
  Summary summary;
};

}  // namespace mileage
