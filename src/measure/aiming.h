// Where counts tell most: around the capacities and break-evens that a study is for.
#pragma once

#include <map>
#include <optional>
#include <vector>

#include "study/study.h"

namespace mileage {

/// What frames of one series cost, as far as single visits tell: milliseconds by count.
using RoughCosts = std::map<std::int64_t, double>;

/// A figure to be aimed at: the capacity of one series, or the break-even of two.
struct Aim {
  std::size_t series = 0;            ///< Index into the plan's series.
  std::optional<std::size_t> other;  ///< The second one of a break-even.
  double budget_ms = 0;              ///< Of a capacity.
  std::optional<double> at;          ///< Where it lies, as far as is known.

  bool concerns(std::size_t one) const { return series == one || other == one; }
};

/// The figures of a plan: those of its goal; without one, the capacities of all series and the break-evens of neighbouring
/// variants (in the scenario's order) under the same conditions.
std::vector<Aim> aims_of(const Scenario& scenario, const Plan& plan);

/// Where the figure lies by rough costs: the first rise through the budget, interpolated in log-log; or the first change of
/// sign of the difference at shared counts that has a difference of 10 % on both of its sides. Nothing where there is none.
std::optional<double> rough_place(const Aim& aim, const std::vector<RoughCosts>& costs);

/// The counts to measure for a figure at this place: five at about 15 and 35 % to either side of it, or three at 22 %.
std::vector<std::int64_t> aimed_counts(double at, bool three);

/// Whether a figure that turned out to lie at `found` is still in the middle of the counts aimed at `aimed`.
bool is_well_aimed(double aimed, double found);

/// Whether it lies outside of them all: what is measured there cannot tell it.
bool is_missed(double aimed, double found);

}  // namespace mileage
