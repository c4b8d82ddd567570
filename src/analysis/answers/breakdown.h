// Breakdown: the difference between two series by phase and thread state, and frame times without a phase.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "analysis/answers/capacity.h"
#include "analysis/statistics/interval.h"

namespace mileage {

struct Analysis;
struct Questions;

/// A whole frame, or a part of the difference between two.
struct Part {
  std::string name;
  double ms = 0;  ///< Second - first.
  Interval interval;
  double first_ms = 0;
  double second_ms = 0;

  /// Whether it is significant.
  bool is_known() const {
    return interval.closed() &&
           ((*interval.low > 0 && *interval.high > 0) || (*interval.low < 0 && *interval.high < 0));
  }
};

/// Frame time and capacity if a phase cost nothing.
struct PhaseFloor {
  std::size_t series = 0;
  std::string phase;
  double phase_ms = 0;
  double floor_ms = 0;
  Interval floor_interval;
  bool is_measured = false;  ///< By a series that skips the phase; else frame - phase.
  Capacity capacity;         ///< For the first budget.
};

/// A counter of two series, per entity and frame.
struct CounterPair {
  std::string name;
  std::optional<double> of_first;
  std::optional<double> of_second;
  std::optional<double> expected;  ///< According to the scenario.
  /// Deviates from `expected` by more than 0.5 %.
  bool first_is_off = false;
  bool second_is_off = false;
};

/// Second - first, part by part.
struct PairBreakdown {
  std::size_t first = 0;
  std::size_t second = 0;
  double x = 0;              ///< Place asked for, or the largest that both were measured at.
  Part first_ms, second_ms;  ///< Costs there.
  Part whole;                ///< Their difference.
  /// Of either series, largest first. With `outside` they add up to `whole`.
  std::vector<Part> phases;
  std::optional<Part> outside;  ///< Outside any phase. Nothing if neither series has phases.
  std::vector<Part> inside;     ///< Phases nested in others.
  /// By state of the main thread: user, kernel, waiting. Empty if either is unknown.
  std::vector<Part> thread;
  std::vector<CounterPair> counters;  ///< That differ, or deviate from `expected`.
  std::optional<Part> page_faults;    ///< Per frame, in their number.
};

struct BreakdownAnswer {
  double budget_ms = 0;
  std::vector<PairBreakdown> pairs;
  std::vector<PhaseFloor> floors;  ///< Of all series of these pairs that have phases, at the last place.
  /// Labels of pairs without a common place.
  std::vector<std::string> not_measured_together;

  bool empty() const { return pairs.empty() && not_measured_together.empty(); }
};

/// For the pairs of Questions::between, at the places asked for. A part is its share of frame time, mean over blocks,
/// times the cost; intervals reweight blocks in each draw (Bayesian bootstrap).
BreakdownAnswer breakdown_answer(const Analysis& analysis, const Questions& questions);

}  // namespace mileage
