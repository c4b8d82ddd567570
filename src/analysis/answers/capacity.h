// Capacity: how far a series goes along the axis before a frame no longer fits its budget.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "analysis/curves/reading.h"

namespace mileage {

struct Analysis;
struct Questions;
class SeriesCurve;

/// Why there is no capacity.
enum class NoCapacity {
  there_is_one,
  over_at_once,              ///< Over the budget already at the smallest place measured.
  within_as_measured,        ///< Within it at the largest place, of too few to extrapolate from.
  within_as_far_as_trusted,  ///< Within it up to twice the largest place, where extrapolating ends.
  within_up_to_failure       ///< Within it at all counts below the smallest one at which a run failed.
};

struct Capacity {
  double budget_ms = 0;
  std::optional<double> at;  ///< First place where the cost rises through the budget; where it jumps over it, the last
                             ///< count within it. More is better.
  Interval interval;         ///< 95 %; an end is open where the curve ends before.
  Source source = Source::measured;
  NoCapacity none = NoCapacity::there_is_one;
  std::string interval_missing;  ///< Why both ends are open; empty when one is not.
};

/// Where the curve of a series first rises through a budget, up to twice the measured range. budget_ms > 0, or a budget
/// of which nothing is left.
Capacity capacity(const SeriesCurve& series, double budget_ms);
/// The same where the budget has an uncertainty of its own: that of each draw, and the middle one.
Capacity capacity(const SeriesCurve& series, const std::vector<double>& budgets_ms, double budget_ms);

struct SeriesCapacity {
  std::size_t series = 0;        ///< Place among the series of the study.
  Capacity capacity;             ///< For the typical frame.
  std::optional<Capacity> tail;  ///< For 99 % of frames; nothing where there are not enough frames around it.
  double tail_from = 0;          ///< Smallest place whose frames are enough to have it.
  std::size_t tail_frames = 0;   ///< Pooled around the capacity, or around that for 99 % where there are more.
  double measured_from = 0;      ///< Smallest place that was measured,
  double measured_to = 0;        ///< and the largest.
  /// Where no measured place is over the budget: the largest that is clear of it, with the 95 % interval of its cost;
  /// the smallest one where none is. Without intervals the largest measured.
  double holds_at_least = 0;
};

/// What a series takes of a budget at a place that was asked for.
struct Headroom {
  double budget_ms = 0;
  double x = 0;
  std::size_t series = 0;
  std::optional<CostReading> cost;  ///< Nothing where the series was not measured that far.
  double share = 0;                 ///< Of the budget,
  double left_ms = 0;               ///< and what is left of it; of a cost that is known.
};

/// What capped recordings have a capacity.
struct CapacityBound {
  std::string label;  ///< Of the series; one without any other run stands in no list of series.
  double budget_ms = 0;
  double at_least = 0;          ///< Largest place whose frames, capped as they were, held the budget.
  std::optional<double> below;  ///< Smallest place that was measured over it.
};

struct CapacityAnswer {
  std::vector<double> budgets_ms;
  /// For each of them, what measuring the capacity for 99 % of frames takes per series, on a machine as slow as it was
  /// in the study: of the series whose runs take most besides their frames. Seconds.
  std::vector<double> times_for_99_s;
  double reserve_ms = 0;                   ///< What the rest of the frame takes: the budgets are without it.
  std::vector<SeriesCapacity> capacities;  ///< Budget by budget, in each the series in their order.
  std::vector<CapacityBound> bounds;       ///< Budget by budget; of series that have no capacity for it.
  std::vector<Headroom> headroom;          ///< Budget by budget, place by place; empty where no place was asked for.
};

CapacityAnswer capacity_answer(const Analysis& analysis, const Questions& questions);

}  // namespace mileage
