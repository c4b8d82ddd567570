// A step looked for while a study is made, in what few runs tell.
#pragma once

#include <cstdint>
#include <map>
#include <optional>

#include "analysis/statistics/interval.h"

namespace mileage {

/// What runs have a count: a typical value of this many of them, of two the smaller one, since spikes are long.
struct RoughPoint {
  double value = 0;  ///< More than 0.
  int runs = 1;
};

/// The two neighbouring counts between which the values pass `slowdown` (> 0) for the first time, where they jump there
/// (steps.h) by more than the assumed noise of runs explains; nothing where they do not. Counts of a single run
/// are skipped.
std::optional<Interval> step_through(double slowdown, const std::map<std::int64_t, RoughPoint>& points);

}  // namespace mileage
