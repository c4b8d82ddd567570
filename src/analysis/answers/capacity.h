// Capacity: up to which place a frame fits its budget.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "analysis/curves/reading.h"

namespace mileage {

struct Analysis;
struct Questions;
class SeriesCurve;

enum class NoCapacity {
  there_is_one,
  over_at_once,              ///< Over budget at the smallest place.
  within_as_measured,        ///< Fits up to the largest place; too few to extrapolate.
  within_as_far_as_trusted,  ///< Fits up to twice the largest place, the end of extrapolation.
  within_up_to_failure       ///< Fits at all counts below a failed run.
};

struct Capacity {
  double budget_ms = 0;
  std::optional<double> at;  ///< Where the cost first exceeds the budget; at a step, the last count within it.
  Interval interval;         ///< Open where the curve ends first.
  Source source = Source::measured;
  NoCapacity none = NoCapacity::there_is_one;
  std::string interval_missing;  ///< Why both ends are open, if they are.
};

/// `budget_ms` may be <= 0. Extrapolates up to twice the measured range.
Capacity capacity(const SeriesCurve& series, double budget_ms);
/// The same for a budget with draws of its own, and their middle.
Capacity capacity(const SeriesCurve& series, const std::vector<double>& budgets_ms, double budget_ms);

struct SeriesCapacity {
  std::size_t series = 0;
  Capacity capacity;             ///< Of the typical frame.
  std::optional<Capacity> tail;  ///< Of 99 % of frames, if there are enough.
  double tail_from = 0;          ///< Smallest place with enough frames.
  std::size_t tail_frames = 0;   ///< Pooled near the capacity, or near that for 99 %.
  double measured_from = 0;      ///< Smallest measured place.
  double measured_to = 0;
  /// If no measured place is over budget: the largest that is significantly within it, with the interval of its cost.
  double holds_at_least = 0;
};

/// Share of the budget used at a place asked for.
struct Headroom {
  double budget_ms = 0;
  double x = 0;
  std::size_t series = 0;
  std::optional<CostReading> cost;
  double share = 0;  ///< Of the budget.
  double left_ms = 0;
};

/// Bounds from capped recordings.
struct CapacityBound {
  std::string label;  ///< Of the series, which need not have other runs.
  double budget_ms = 0;
  double at_least = 0;          ///< Largest place that held the cap.
  std::optional<double> below;  ///< Smallest place over budget.
};

struct CapacityAnswer {
  std::vector<double> budgets_ms;
  /// By budget: seconds per series to measure the capacity for 99 %, on a machine as slow as in this study.
  std::vector<double> times_for_99_s;
  double reserve_ms = 0;                   ///< Rest of the frame; already subtracted from the budgets.
  std::vector<SeriesCapacity> capacities;  ///< By budget, then series.
  std::vector<CapacityBound> bounds;       ///< By budget; series without a capacity.
  std::vector<Headroom> headroom;          ///< By budget, then place asked for.
};

CapacityAnswer capacity_answer(const Analysis& analysis, const Questions& questions);

}  // namespace mileage
