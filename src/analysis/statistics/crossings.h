// Where a function of the axis changes its sign.
#pragma once

#include <functional>
#include <optional>
#include <vector>

#include "analysis/statistics/statistics.h"

namespace mileage {

/// Places at equal ratios from `least` to `most` (0 < least <= most), both included.
std::vector<double> places_between(double min, double max, int how_many);

struct Crossing {
  double x = 0;
  bool upward = false;  ///< From negative to positive as x grows.
};

/// All sign changes of f between `least` and `most`, ascending, each to a relative 1e-10. Looks at 400 places at equal
/// ratios; two changes closer together than that are not seen.
std::vector<Crossing> crossings(const std::function<double(double)>& f, double min, double max);

/// The crossing of the given direction whose place is nearest to `x` by ratio.
std::optional<Crossing> nearest_crossing(const std::vector<Crossing>& all, bool upward, double x);

/// All places around a crossing, no farther than the ends of `range` (closed), at which it is not clear on which side
/// of it they are: the places where a difference is within its own 95 % interval are the 95 % interval of where it is
/// zero (E. C. Fieller, "Some problems in interval estimation", 1954), long where it is flat. An end is open where
/// nothing gets clear towards it.
Interval ambiguous_range(double crossing, const std::function<bool(double)>& is_clear, const Interval& range);

}  // namespace mileage
