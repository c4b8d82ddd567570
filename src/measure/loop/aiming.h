// Where counts are most informative: around the capacities and break-evens of a study.
#pragma once

#include <map>
#include <optional>
#include <vector>

#include "analysis/curves/rough_costs.h"
#include "study/study.h"

namespace mileage {

/// Milliseconds by count, from single runs.
using RoughCosts = std::map<std::int64_t, double>;

enum class FramesOf {
  typical,
  max,   ///< 99th percentile.
  worst  ///< After arrivals.
};

/// The capacity of one series or the break-even of two.
struct Aim {
  std::size_t series = 0;               ///< Index in the plan.
  std::optional<std::size_t> other;     ///< Of a break-even.
  double budget_ms = 0;                 ///< Of a capacity.
  std::optional<double> at;             ///< If known.
  double around = 0;                    ///< Middle of the counts around it; 0 for none.
  FramesOf frames = FramesOf::typical;  ///< Of a capacity.
  std::size_t counts_around = 5;        ///< 5, 3, 2 or 1.
  std::vector<std::int64_t> in_jump;    ///< Counts inside a step at the figure.

  bool concerns(std::size_t one) const { return series == one || other == one; }
};

/// Those of the goal, or all capacities and the break-evens of compared pairs (pairs.h).
std::vector<Aim> aims_of(const Scenario& scenario, const Plan& plan);

/// First crossing of the budget, log-log; or first change of sign with a difference of 10 % on both sides.
std::optional<double> rough_place(const Aim& aim, const std::vector<RoughCosts>& costs);

/// Five counts within 35 %, three within 22 % (a tenth lower for 99 %), two, or one 15 % above; and those inside a
/// step.
std::vector<std::int64_t> aimed_counts(const Aim& aim);

/// By count: cost of the series, or ratio of both.
using AimPoints = std::map<std::int64_t, RoughPoint>;

/// Adds a count in the middle of a step through the figure; at most four, none in a step below 2 %. Returns whether it
/// did.
bool aim_into_jump(Aim& aim, const AimPoints& points);

/// Capacities close to each other share one place; those for 99 % keep their own.
void choose_places(std::vector<Aim>& aims);

/// For a break-even also true if single runs show no difference at its counts: nearly parallel curves have no better
/// place.
bool is_well_aimed(const Aim& aim, double found, const std::vector<RoughCosts>& costs);

/// At or beyond the outermost count, or too far from a single one.
bool is_missed(const Aim& aim, double found);

}  // namespace mileage
