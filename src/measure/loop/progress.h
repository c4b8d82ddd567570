// Progress and callbacks of a study being measured.
#pragma once

#include <cstdint>
#include <functional>
#include <optional>
#include <vector>

#include "study/study.h"

namespace mileage {

/// A capacity of a series, or a place where two differ.
struct FigureSoFar {
  std::size_t series = 0;  ///< Index in the plan.
  std::optional<std::size_t> other;
  double place = 0;
  double half_width = 0;  ///< Relative, of 95 %.
};

/// Reported before each run.
struct Progress {
  bool checking = false;       ///< Before everything else.
  bool range_finding = false;  ///< Before the first block.
  bool tracing = false;
  int block = 0;          ///< From 0.
  std::size_t done = 0;   ///< Runs in this block or pass.
  std::size_t cells = 0;  ///< Runs of a whole block; 0 in range finding.
  double elapsed_s = 0;
  double left_s = 0;  ///< Foreseen; 0 if unknown.
  std::vector<FigureSoFar> figures;
  const Series* series = nullptr;
  std::int64_t count = 0;
};

/// Why a planned count is not in the blocks.
enum class LeftOutWhy {
  outcome_differs,  ///< Excluded by checks.
  over_limit,       ///< A run at a smaller count timed out.
  over_budget,      ///< Beyond the largest count of range finding.
  others_say_more,  ///< Runs at other counts narrow the answers more.
  not_reached
};

struct LeftOut {
  std::size_t series = 0;  ///< Index in the plan.
  std::int64_t count = 0;
  LeftOutWhy why = LeftOutWhy::not_reached;
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
  /// Before the first block, if five blocks of all cells do not fit.
  std::function<void(const TooShort&)> too_short;
};

/// What is foreseen without a precision.
inline constexpr double usual_precision = 0.05;

struct Summary {
  int blocks = 0;  ///< Whole ones.
  std::size_t kept = 0;
  std::size_t failed = 0;
  std::size_t made_again = 0;          ///< Repeated successfully after the machine stood still.
  std::size_t condemned = 0;           ///< Of the blocks, by the final slowdown.
  std::map<int, double> yardstick_ns;  ///< By number of cores probed.
  std::optional<double> reached;       ///< Relative half-width of the goal's widest interval.
  std::optional<double> lacking_s;     ///< Further time until the plan's precision, or the usual one.
  std::vector<LeftOut> left_out;       ///< By series, then count.
  std::size_t untraced = 0;            ///< Traced runs without time.
  bool stopped = false;                ///< By the watch.
  double elapsed_s = 0;
};

}  // namespace mileage
