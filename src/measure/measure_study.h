// The measuring loop: a placing pass, then blocks of visits in shuffled order.
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "measure/clock.h"
#include "measure/runner.h"
#include "study/study.h"

namespace mileage {

/// How far a study is; told before each visit.
struct Progress {
  bool checking = false;    ///< In the checks of outcomes, before everything else.
  bool placing = false;     ///< In the placing pass, before the first block.
  bool repeating = false;   ///< Visiting again what the yardstick condemned in this block.
  int block = 0;            ///< Block in work, counted from 0.
  int blocks = 0;           ///< Blocks foreseen, the last one perhaps in part.
  std::size_t done = 0;     ///< Visits made in this block or pass.
  std::size_t cells = 0;    ///< Visits of a whole block; 0 in the placing pass.
  double elapsed_s = 0;
  double left_s = 0;        ///< Time left as foreseen; 0 while it is not known.
  const Series* series = nullptr;
  std::int64_t count = 0;
};

/// What happens around the loop. Empty functions are left out.
struct Watch {
  std::function<void(const Visit&)> keep;         ///< Called with each visit as it is finished, failed ones too.
  std::function<void(const Progress&)> progress;  ///< Called before each visit.
  std::function<bool()> stop;                     ///< Asked before each visit; true ends the study cleanly.
};

struct Summary {
  int blocks = 0;  ///< Blocks finished as a whole.
  std::size_t kept = 0;
  std::size_t failed = 0;
  std::size_t repeated = 0;  ///< Condemned by the yardstick.
  std::optional<double> yardstick_ns;  ///< Level of the yardstick in the study.
  bool stopped = false;  ///< By the watch, before the plan was done.
  double elapsed_s = 0;
};

/// Measures a plan. First come the checks of outcomes (check_plan.h). Then every series is placed: one short visit per
/// count, upwards, until it is far over the budget (1.6 times); counts beyond are left out for that series, and so are
/// cells that fail. Then come the blocks: in each, the counts in shuffled order, and at each count its series side by side
/// in random order. All series of a count in a block get the same seed.
///
/// A visit waits for a quiet moment by the yardstick, two seconds at most and 15 % of the time allowed in all. Visits that
/// the yardstick condemns are made again at the end of their block, in three rounds at most (one where plan.time_s is
/// set); a cell that is still disturbed then is left out of the block.
///
/// Blocks end after plan.blocks of them, or with the last visit that fits into plan.time_s, which may leave the last block
/// unfinished; one whole block at least is made. `keep` and `stop` may throw; nothing is lost then but the visit in work.
///
/// `head` holds scenario, plan and the remembered level of the yardstick. `made` holds the visits of an earlier, interrupted
/// run of the same head: they are taken in their order instead of being made again (and not told to `keep`), so that
/// measuring goes on where it stopped. Throws Error (bad input) when they are not the beginning of this study.
Summary measure_study(const Head& head, const std::vector<Visit>& made, Runner& runner, Clock& clock, const Watch& watch);

}  // namespace mileage
