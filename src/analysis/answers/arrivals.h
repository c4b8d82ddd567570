// Arrivals: what the frames cost in which entities come, and how far a series goes by these.
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "analysis/statistics/interval.h"

namespace mileage {

struct Analysis;
struct Questions;

/// How far a series goes before the frames in which entities come no longer fit a budget. They are of the machine as it
/// was, and are not corrected to full speed.
struct WorstFrames {
  std::size_t series = 0;  ///< Place among the series of the study.
  double budget_ms = 0;
  /// Where the worst frame after an arrival passes the budget: mean over runs (blocks, or recordings), log scale. In
  /// each it is the place with the fewest arrivals that are over below it and within above it.
  std::optional<double> at;
  Interval interval;                 ///< 95 %, by Student's t over runs; open below three of them.
  std::optional<double> first_over;  ///< Smallest place at which any arrival was over.
  double measured_from = 0;          ///< Smallest place with an arrival,
  double measured_to = 0;            ///< and the largest.
  bool over_at_once = false;         ///< Whether the smallest one is over already.
};

/// What arrivals of one size do, at places within a factor of two of where the worst frame passes the budget (or of the
/// largest place).
struct ArrivalSize {
  std::size_t series = 0;
  std::int64_t arriving = 0;  ///< Median of those that are alike.
  double at = 0;              ///< Place on the axis after them: median.
  std::size_t seen = 0;       ///< Arrivals.
  double adds_ms = 0;         ///< Worst frame less the settled one: median.
  Interval adds_interval;     ///< 95 %, by order statistics; open below six arrivals.
  /// Until frames stay within a tenth of the settled one: medians. Nothing where none of them settled.
  std::optional<double> settles_frames;
  std::optional<double> settles_ms;
};

struct ArrivalsAnswer {
  std::vector<WorstFrames> worst;  ///< Budget by budget, in each the series with arrivals.
  std::vector<ArrivalSize> sizes;  ///< Series by series, ascending; for the first budget.
  bool empty() const { return worst.empty(); }
};

/// Empty where no entities came while frames were recorded.
ArrivalsAnswer arrivals_answer(const Analysis& analysis, const Questions& questions);

}  // namespace mileage
