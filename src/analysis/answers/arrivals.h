// Arrivals: cost of the frames in which entities are added, and the capacity that they allow.
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "analysis/statistics/interval.h"

namespace mileage {

struct Analysis;
struct Questions;

/// Capacity for frames with arrivals. Not corrected for slowdown.
struct WorstFrames {
  std::size_t series = 0;
  double budget_ms = 0;
  /// Mean crossing over runs (blocks or recordings), log scale.
  std::optional<double> at;
  Interval interval;                 ///< Student's t over runs; open below three.
  std::optional<double> first_over;  ///< Smallest place with an arrival over the budget.
  double measured_from = 0;          ///< Smallest place with an arrival.
  double measured_to = 0;
  bool over_at_once = false;
};

/// Arrivals of one size, within a factor of two of the crossing (or of the largest place).
struct ArrivalSize {
  std::size_t series = 0;
  std::int64_t arriving = 0;  ///< Median.
  double at = 0;              ///< Median place after them.
  std::size_t seen = 0;       ///< Number of arrivals.
  double adds_ms = 0;         ///< Median of worst frame - settled frame.
  Interval adds_interval;     ///< Order statistics; open below six arrivals.
  /// Median until frames stay within 10 % of the settled one. Nothing if none settled.
  std::optional<double> settles_frames;
  std::optional<double> settles_ms;
};

struct ArrivalsAnswer {
  std::vector<WorstFrames> worst;  ///< By budget, then series.
  std::vector<ArrivalSize> sizes;  ///< By series, ascending; for the first budget.
  bool empty() const { return worst.empty(); }
};

/// Empty if no arrivals were recorded.
ArrivalsAnswer arrivals_answer(const Analysis& analysis, const Questions& questions);

}  // namespace mileage
