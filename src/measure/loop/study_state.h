// A study while it is being measured. The phases of the loop (checking.h, placing.h, aim_counts.h, blocks.h) are
// functions that take it from one state to the next.
#pragma once

#include <map>
#include <optional>
#include <utility>
#include <vector>

#include "measure/loop/aiming.h"
#include "measure/loop/block_order.h"
#include "measure/loop/visit_cost.h"
#include "measure/loop/visit_recorder.h"

namespace mileage {

/// A visit of a block whose outcome is to be held against the reference's.
struct DrawnVisit {
  Cell cell;
  int frames = 0;
  double takes_s = 0;  ///< At most.
};

/// What a reference costs that is none of the series, by count.
struct ReferenceCosts {
  Series reference;
  std::map<std::int64_t, VisitCost> visit_costs;
};

struct StudyState {
  /// All arguments must outlive it.
  StudyState(const Head& head, const std::vector<Visit>& made, Runner& runner, Clock& clock, const Watch& watch);

  /// Asks the watch; once it said so, the study is stopped.
  bool is_stop_asked();
  /// Place of a series in the plan.
  std::size_t index_of(const Series& series) const;
  /// Whether a series may be visited at a count: its outcome agrees, and it did not run into a limit of time there.
  bool may_visit(std::size_t series, std::int64_t count) const;
  /// A visit. Where it runs into its limit of time though it was foreseen to take far less, the machine stood still: it
  /// is made once more, unless the time allowed is over. Where it runs into it for itself, its series ends at that
  /// count.
  Visit visit(const Order& order, double foreseen_s, Progress& progress);
  /// From this count on no visit of the series is made: one ran into its limit of time there.
  void end_at(std::size_t series, std::int64_t count);
  /// Whether the visits so far took less than this share of the time allowed; always, where there is no such time.
  bool has_spent_less_than(double share) const;
  /// Aims of series that the checks exclude.
  void drop_excluded_aims();
  /// Why a count of the plan is not visited in blocks, unless it is after all.
  void leave_out(std::size_t series, std::int64_t count, LeftOutWhy why) { left_out[{series, count}] = why; }

  const Head& head;
  const Plan& plan;
  const Watch& watch;
  VisitRecorder recorder;

  std::vector<bool> is_excluded;   ///< By series: by the checks.
  std::vector<std::int64_t> ends;  ///< By series: the count that ran into the limit of time; the largest there is.
  std::vector<RoughCosts> costs;   ///< By series, as far as visits have told.
  std::vector<std::map<std::int64_t, VisitCost>> visit_costs;  ///< The same of what visits take.
  std::vector<ReferenceCosts> reference_costs;  ///< Of references that are not measured, as far as checks have told.
  std::map<std::pair<std::size_t, std::int64_t>, LeftOutWhy> left_out;  ///< By series and count.
  std::vector<Cell> ladder;  ///< The counts of the plan, as far as each series was placed.
  std::vector<Aim> aims;
  std::vector<Cell> cells;  ///< What a block visits.

  double overrun = 1;               ///< Time of the last block, by what was foreseen for it.
  double blocks_since_s = 0;        ///< When the first block began.
  int blocks_planned = 0;           ///< Blocks in all, as the plan or the stage of a precision has it.
  bool is_cut_short = false;        ///< In the middle of a block, by time or by the watch.
  std::optional<DrawnVisit> drawn;  ///< Waits until time for its check is saved.
  double visit_checks_s = 0;        ///< Spent on checks of visits of the blocks.
  int blocks_looked_at = 0;         ///< Blocks made when the precision was last looked at,
  double look_took_s = 0;           ///< and how long that took.
  Summary summary;
};

}  // namespace mileage
