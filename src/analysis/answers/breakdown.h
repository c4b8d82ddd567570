// Breakdown: the difference of two series at a place, by what their frames are made of; and what a frame would take if
// one of its phases cost nothing.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "analysis/answers/capacity.h"
#include "analysis/statistics/interval.h"

namespace mileage {

struct Analysis;
struct Questions;

/// One part of the difference of two frames, in milliseconds of typical ones; or a whole frame.
struct Part {
  std::string name;
  double ms = 0;      ///< Of the second less that of the first.
  Interval interval;  ///< 95 %.
  double first_ms = 0;
  double second_ms = 0;

  /// Whether it is surely more or less than nothing.
  bool is_known() const {
    return interval.closed() &&
           ((*interval.low > 0 && *interval.high > 0) || (*interval.low < 0 && *interval.high < 0));
  }
};

/// What would be left of a frame if one of its phases cost nothing, and how far the series would go then.
struct PhaseFloor {
  std::size_t series = 0;
  std::string phase;
  double phase_ms = 0;
  double floor_ms = 0;
  Interval floor_interval;
  bool is_measured = false;  ///< By a series that leaves the phase out; else it is the frame less its phase.
  Capacity capacity;         ///< Of the floor, for the first budget asked for.
};

/// A counter of two series, for each entity and frame.
struct CounterPair {
  std::string name;
  std::optional<double> of_first;  ///< Nothing where it has none.
  std::optional<double> of_second;
  std::optional<double> expected;  ///< What the scenario says it comes to.
  /// Whether what is expected is missed by more than half a per cent.
  bool first_is_off = false;
  bool second_is_off = false;
};

/// What the second series takes more than the first, part by part; below zero where it takes less.
struct PairBreakdown {
  std::size_t first = 0;  ///< Place among the series of the study.
  std::size_t second = 0;
  double x = 0;              ///< The place that it is of: the one asked for, or the largest that both were measured at.
  Part first_ms, second_ms;  ///< What they cost there.
  Part whole;                ///< The difference.
  /// By phase, the largest first; those of either series. Together with `outside` they are the whole.
  std::vector<Part> phases;
  std::optional<Part> outside;  ///< In no phase: cannot be placed. Nothing where neither series has phases.
  std::vector<Part> inside;     ///< Of phases that lie inside others, whose part holds theirs.
  /// The same difference by what the main thread did: it worked, was inside the system's calls, or waited for
  /// others. Empty where one of the two does not tell.
  std::vector<Part> thread;
  std::vector<CounterPair> counters;  ///< Those that differ, or miss what is expected.
  std::optional<Part> page_faults;    ///< First touches of memory a frame; as `whole`, in their number.
};

struct BreakdownAnswer {
  double budget_ms = 0;
  std::vector<PairBreakdown> pairs;
  std::vector<PhaseFloor> floors;  ///< Of all series of these pairs that have phases, at the last place.
  /// Pairs asked for that no place has measured both of, by their labels.
  std::vector<std::string> not_measured_together;

  bool empty() const { return pairs.empty() && not_measured_together.empty(); }
};

/// For the pairs of Questions::between, at the places asked for (or the largest that both were measured at). Empty
/// where no pair is asked for. A part is its share of the frames' time, mean over blocks, times the cost of the series;
/// its interval is the spread of that without each block (jackknife, Student's t), with all that this does not show.
BreakdownAnswer breakdown_answer(const Analysis& analysis, const Questions& questions);

}  // namespace mileage
