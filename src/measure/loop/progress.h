// Progress and callbacks of a study being measured.
#pragma once

#include <cstdint>
#include <functional>
#include <optional>
#include <vector>

#include "study/study.h"

namespace mileage {

/// Reported before each run.
struct Progress {
  bool checking = false;       ///< Before everything else.
  bool range_finding = false;  ///< Before the first block.
  bool tracing = false;
  bool repeating = false;  ///< Cells without evidence.
  int block = 0;           ///< From 0.
  int blocks = 0;          ///< Foreseen; the last may be partial.
  std::size_t done = 0;    ///< Runs in this block or pass.
  std::size_t cells = 0;   ///< Runs of a whole block; 0 in range finding.
  double elapsed_s = 0;
  double left_s = 0;              ///< Foreseen; 0 if unknown.
  std::optional<double> reached;  ///< Relative half-width of the goal's widest interval.
  const Series* series = nullptr;
  std::int64_t count = 0;
};

/// Why a planned count is not in the blocks.
enum class LeftOutWhy {
  outcome_differs,  ///< Excluded by checks.
  over_limit,       ///< A run at a smaller count timed out.
  over_budget,
  beside_aim,  ///< Redundant next to an aim, or beyond it.
  range_finding_time,
  block_time,  ///< So that enough blocks fit.
  not_best,    ///< Slower than the tuned knob's best value.
  not_reached
};

struct LeftOut {
  std::size_t series = 0;  ///< Index in the plan.
  std::int64_t count = 0;
  LeftOutWhy why = LeftOutWhy::not_reached;
};

/// What a block skips so that enough blocks fit, cumulative.
enum class Skipped {
  nothing,
  half_the_ladder,  ///< Every second plan count, if a figure is aimed at.
  ladder,           ///< Expensive plan counts; without aims all but three.
  ends,             ///< Three counts around a figure instead of five.
  half_the_frames,  ///< Frames per run.
  max_of_the_frames,
  break_evens,  ///< Unless they are the goal.
  middles,      ///< Two counts around a figure, if each series keeps three.
  sides,        ///< One count.
  aims          ///< None, if counts were listed.
};

struct TooShort {
  double needed_s = 0;      ///< Minimum.
  std::size_t slowest = 0;  ///< Series that takes most of a block.
  double slowest_s = 0;
};

/// Functions may be empty.
struct Watch {
  std::function<void(const Run&)> keep;           ///< After each run, failed ones included.
  std::function<void(const Progress&)> progress;  ///< Before each run.
  std::function<bool()> stop;                     ///< Before each run; true ends the study.
  /// Before the first block, if five blocks do not fit even after skipping.
  std::function<void(const TooShort&)> too_short;
};

struct Summary {
  int blocks = 0;  ///< Whole ones.
  std::size_t kept = 0;
  std::size_t failed = 0;
  std::size_t made_again = 0;          ///< Repeated successfully after the machine stood still.
  std::size_t condemned = 0;           ///< Of the blocks, by the final slowdown.
  std::map<int, double> yardstick_ns;  ///< By number of cores probed.
  std::optional<double> reached;       ///< Relative half-width of the goal's widest interval.
  int blocks_lacking = 0;              ///< For the wanted precision.
  std::vector<LeftOut> left_out;       ///< By series, then count.
  Skipped skipped = Skipped::nothing;  ///< In the last block.
  std::size_t untraced = 0;            ///< Traced runs without time.
  bool stopped = false;                ///< By the watch.
  double elapsed_s = 0;
};

}  // namespace mileage
