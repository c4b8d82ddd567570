// Where counts tell most: around the capacities and break-evens that a study is for.
#pragma once

#include <map>
#include <optional>
#include <vector>

#include "analysis/model/rough_costs.h"
#include "study/study.h"

namespace mileage {

/// What frames of one series cost, as far as single runs tell: milliseconds by count.
using RoughCosts = std::map<std::int64_t, double>;

/// The frames that a capacity is known of.
enum class FramesOf {
  typical,
  max,   ///< 99 % of them.
  worst  ///< After arrivals.
};

/// A figure to be aimed at: the capacity of one series, or the break-even of two.
struct Aim {
  std::size_t series = 0;               ///< Index into the plan's series.
  std::optional<std::size_t> other;     ///< The second one of a break-even.
  double budget_ms = 0;                 ///< Of a capacity.
  std::optional<double> at;             ///< Where it lies, as far as is known.
  double around = 0;                    ///< Middle of the counts that stand around it, where there are any.
  FramesOf frames = FramesOf::typical;  ///< Of a capacity: what it is known of.
  std::size_t counts_around = 5;        ///< How many those are: 5, 3, 2 or 1.
  std::vector<std::int64_t> in_jump;    ///< Counts inside a jump in cost that the figure lies in.

  bool concerns(std::size_t one) const { return series == one || other == one; }
};

/// The figures of a plan: those of its goal; without one, the capacities of all series and the break-evens of all pairs
/// that the analysis reports (pairs.h).
std::vector<Aim> aims_of(const Scenario& scenario, const Plan& plan);

/// Where the figure lies by rough costs: the first rise through the budget, interpolated in log-log; or the first
/// change of sign of the difference at shared counts that has a difference of 10 % on both of its sides. Nothing where
/// there is none.
std::optional<double> rough_place(const Aim& aim, const std::vector<RoughCosts>& costs);

/// The counts to measure for a figure: five at about 15 and 35 % to either side of its middle, or three at 22 %,
/// which lie a tenth lower for 99 % of frames; or both sides of these, or a single one 15 % above the figure; and those
/// inside a jump.
std::vector<std::int64_t> aimed_counts(const Aim& aim);

/// What runs have the value that a figure is read from, by count: the cost of its series, or the ratio of both.
using AimPoints = std::map<std::int64_t, RoughPoint>;

/// Where the value jumps through the figure's level (the budget, or a ratio of 1), takes a further count into the
/// jump, in its middle. Not into one that is narrower than 2 %, and no more than four. Returns whether it did.
bool aim_into_jump(Aim& aim, const AimPoints& points);

/// Says around which places counts are to stand: where figures lie; capacities close to each other share one place, so
/// that their series are seen side by side there. Those of 99 % of frames keep their own: these tell them alone.
void choose_places(std::vector<Aim>& aims);

/// Whether a figure that turned out to lie at `found` is where it was thought to be. A break-even also is where the
/// costs of single runs tell no difference at its counts: where two curves are nearly parallel, no place is better
/// than another.
bool is_well_aimed(const Aim& aim, double found, const std::vector<RoughCosts>& costs);

/// Whether it lies outside of the counts that stand around it, or at the outermost, or too far from a single one: what
/// is measured there does not show it.
bool is_missed(const Aim& aim, double found);

}  // namespace mileage
