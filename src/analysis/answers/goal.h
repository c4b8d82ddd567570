// How precise the figure that a study is for has become.
#pragma once

#include <optional>

#include "study/study.h"

namespace mileage {

/// The widest of a goal's intervals.
struct Reached {
  std::size_t figures = 0;  ///< Capacities or break-evens that exist within reach.
  std::optional<double>
      half_width;  ///< Of the widest, relative: 0.03 is +-3 %. Nothing while one of them has no interval.
};

/// Reads a goal's figures from the runs so far; without a figure named, the capacities at the plan's budget. A series
/// that stays within the budget has no capacity to be precise about, and a pair that never crosses no break-even. Costs
/// B + 1 fits for each series that the figures are of.
Reached reached(const Study& study, const Goal& goal);

}  // namespace mileage
