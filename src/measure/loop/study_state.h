// A study while it is being measured. The phases of the loop (checking.h, range_finding.h, aim_counts.h, blocks.h) are
// functions that take it from one state to the next.
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

/// A run of a block whose outcome is to be compared with the reference's.
struct DrawnRun {
  Cell cell;
  int frames = 0;
  double takes_s = 0;  ///< At most.
};

/// What a reference costs that is none of the series, by count.
struct ReferenceCosts {
  Series reference;
  std::map<std::int64_t, RunCost> run_costs;
};

struct StudyState {
  /// All arguments must outlive it.
  StudyState(const Head& head, const std::vector<Run>& made, Runner& runner, Clock& clock, const Watch& watch);

  /// Asks the watch; once it said so, the study is stopped.
  bool is_stop_asked();
  /// Place of a series in the plan.
  std::size_t index_of(const Series& series) const;
  /// Whether a series may be measured at a count: its outcome agrees, and it did not run into a limit of time there.
  bool may_run(std::size_t series, std::int64_t count) const;
  /// A run. Where it runs into its limit of time though it was foreseen to take far less, the machine stood still: it
  /// is made again, unless the time allowed is over. Where it runs into it for itself, its series ends at that
  /// count.
  Run run(const Order& order, double foreseen_s, Progress& progress);
  /// From this count on no run of the series is made: one ran into its limit of time there.
  void end_at(std::size_t series, std::int64_t count);
  /// Whether the runs so far took less than this share of the time allowed; always, where there is no such time.
  bool has_spent_less_than(double share) const;
  /// Aims of series that the checks exclude.
  void drop_excluded_aims();
  /// Why a count of the plan is not measured in blocks, unless it is after all.
  void leave_out(std::size_t series, std::int64_t count, LeftOutWhy why) { left_out[{series, count}] = why; }

  const Head& head;
  const Plan& plan;
  const Watch& watch;
  RunRecorder recorder;

  std::vector<bool> is_excluded;   ///< By series: by the checks.
  std::vector<std::int64_t> ends;  ///< By series: the count that ran into the limit of time; the largest there is.
  std::vector<RoughCosts> costs;   ///< By series, as far as runs have told.
  std::vector<std::map<std::int64_t, RunCost>> run_costs;  ///< The same of what runs take.
  std::vector<ReferenceCosts> reference_costs;  ///< Of references that are not measured, as far as checks have told.
  std::map<std::pair<std::size_t, std::int64_t>, LeftOutWhy> left_out;  ///< By series and count.
  std::vector<Cell> ladder;  ///< The counts of the plan, as far as each series was placed.
  std::vector<Aim> aims;
  std::vector<Cell> cells;  ///< What a block runs.

  double overrun = 1;             ///< Time of the last block, by what was foreseen for it.
  double blocks_since_s = 0;      ///< When the first block began.
  int blocks_planned = 0;         ///< Blocks in all, as the plan or the stage of a precision has it.
  bool is_cut_short = false;      ///< In the middle of a block, by time or by the watch.
  std::optional<DrawnRun> drawn;  ///< Waits until time for its check is saved.
  double run_checks_s = 0;        ///< Spent on checks of runs of the blocks.
  int blocks_looked_at = 0;       ///< Blocks made when the precision was last looked at,
  double look_took_s = 0;         ///< and how long that took.
  Summary summary;
};

}  // namespace mileage
