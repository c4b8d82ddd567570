// How far a study is, and what happens around it while it is measured.
#pragma once

#include <cstdint>
#include <functional>
#include <optional>
#include <vector>

#include "study/study.h"

namespace mileage {

/// How far a study is; told before each run.
struct Progress {
  bool checking = false;       ///< In the checks of outcomes, before everything else.
  bool range_finding = false;  ///< In the range finding pass, before the first block.
  bool tracing = false;        ///< Runs that keep their frames one by one.
  bool repeating = false;      ///< Repeating what the yardstick condemned.
  int block = 0;               ///< Block in work, counted from 0.
  int blocks = 0;              ///< Blocks foreseen, the last one perhaps in part.
  std::size_t done = 0;        ///< Runs made in this block or pass.
  std::size_t cells = 0;       ///< Runs of a whole block; 0 in the range finding pass.
  double elapsed_s = 0;
  double left_s = 0;              ///< Time left as foreseen; 0 while it is not known.
  std::optional<double> reached;  ///< Relative half-width of the goal's widest interval, when it was last looked at.
  const Series* series = nullptr;
  std::int64_t count = 0;
};

/// Why something of a plan is not in its blocks.
enum class LeftOutWhy {
  outcome_differs,     ///< The checks exclude the series.
  over_limit,          ///< A run at a smaller count ran into its limit of time.
  over_budget,         ///< Far over the budget.
  beside_aim,          ///< Close below a capacity or beyond it, where other counts stand.
  range_finding_time,  ///< Finding its cost would have taken too much of the time.
  block_time,          ///< So that enough blocks fit into the time.
  not_best,            ///< Clearly slower than the best value of the knob that is tuned.
  not_reached          ///< The study ended before.
};

/// A count of the plan that a series was not measured at.
struct LeftOut {
  std::size_t series = 0;  ///< Index into the plan's series.
  std::int64_t count = 0;
  LeftOutWhy why = LeftOutWhy::not_reached;
};

/// What a block gives up so that enough blocks fit into the time: each of these, and all before it.
enum class Skipped {
  nothing,
  half_the_ladder,  ///< Every second count of the plan, where a figure is aimed at;
  ladder,           ///< of the others the dear ones, and elsewhere all but the last three;
  ends,             ///< three counts around a figure instead of five;
  half_the_frames,  ///< fewer frames a run,
  max_of_the_frames,
  break_evens,  ///< and counts around break-evens, unless they are the goal;
  middles,      ///< two counts around a figure, where each series still has three in all,
  sides,        ///< then one,
  aims          ///< and where the counts were listed, in the end none.
};

/// A time that does not suffice.
struct TooShort {
  double needed_s = 0;      ///< What the study would take at least.
  std::size_t slowest = 0;  ///< The series that takes most of a block,
  double slowest_s = 0;     ///< and how long.
};

/// What happens around the loop. Empty functions are excluded.
struct Watch {
  std::function<void(const Run&)> keep;           ///< Called with each run as it is finished, failed ones too.
  std::function<void(const Progress&)> progress;  ///< Called before each run.
  std::function<bool()> stop;                     ///< Asked before each run; true ends the study cleanly.
  /// Called once, before the first block, where five blocks do not fit into the time even after all was skipped.
  std::function<void(const TooShort&)> too_short;
};

/// What a study came to.
struct Summary {
  int blocks = 0;        ///< Blocks finished as a whole.
  std::size_t kept = 0;  ///< Runs that answers rest on.
  std::size_t failed = 0;
  std::size_t made_again = 0;  ///< Of these, the ones during which the machine stood still, and that went well then.
  std::size_t condemned = 0;   ///< Runs of the blocks that were disturbed, by the slowdown that the study ended with.
  std::map<int, double> yardstick_ns;  ///< Full speed that the study showed, by the cores probed at once.
  std::optional<double> reached;       ///< Relative half-width of the goal's widest interval.
  int blocks_lacking = 0;  ///< Blocks that a wanted precision would still take, when time or blocks ended before.
  std::vector<LeftOut> left_out;       ///< By series, then count.
  Skipped skipped = Skipped::nothing;  ///< In the last block.
  std::size_t untraced = 0;            ///< Runs that were to keep their frames one by one, and found no time.
  bool stopped = false;                ///< By the watch, before the plan was done.
  double elapsed_s = 0;
};

}  // namespace mileage
