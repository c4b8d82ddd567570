// A study while it is being measured. The phases of the loop (checking.h, placing.h, aim_counts.h, blocks.h) are
// functions that take it from one state to the next.
#pragma once

#include <vector>

#include "measure/loop/aiming.h"
#include "measure/loop/block_order.h"
#include "measure/loop/visit_recorder.h"

namespace mileage {

struct StudyState {
  /// All arguments must outlive it.
  StudyState(const Head& head, const std::vector<Visit>& made, Runner& runner, Clock& clock, const Watch& watch);

  /// Asks the watch; once it said so, the study is stopped.
  bool is_stop_asked();
  /// Place of a series in the plan.
  std::size_t index_of(const Series& series) const;

  const Head& head;
  const Plan& plan;
  const Watch& watch;
  VisitRecorder recorder;

  std::vector<RoughCosts> costs;  ///< By series, as far as visits have told.
  std::vector<Cell> ladder;       ///< The counts of the plan, as far as each series was placed.
  std::vector<Aim> aims;
  std::vector<Cell> cells;  ///< What a block visits.

  double blocks_since_s = 0;  ///< When the first block began.
  int blocks_planned = 0;     ///< Blocks in all, as the plan or the stage of a precision has it.
  bool is_cut_short = false;  ///< In the middle of a block, by time or by the watch.
  int blocks_looked_at = 0;   ///< Blocks made when the precision was last looked at,
  double look_took_s = 0;     ///< and how long that took.
  Summary summary;
};

}  // namespace mileage
