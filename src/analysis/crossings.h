// Where a function of the axis changes its sign.
#pragma once

#include <functional>
#include <optional>
#include <vector>

namespace mileage {

/// Places at equal ratios from `least` to `most` (0 < least <= most), both included.
std::vector<double> places_between(double least, double most, int how_many);

struct Crossing {
  double x = 0;
  bool upward = false;  ///< From negative to positive as x grows.
};

/// All sign changes of f between `least` and `most`, ascending, each to a relative 1e-10. Looks at 400 places at equal
/// ratios; two changes closer together than that are not seen.
std::vector<Crossing> crossings(const std::function<double(double)>& f, double least, double most);

/// The crossing of the given direction whose place is nearest to `x` by ratio.
std::optional<Crossing> nearest_crossing(const std::vector<Crossing>& all, bool upward, double x);

/// An uncertainty of f at x carried over to the (logarithmic) axis: divided by the slope of f there, which is taken as
/// 0.05 at least, so that a flat stretch gives a wide answer instead of none.
double along_axis(const std::function<double(double)>& f, double uncertainty, double x);

}  // namespace mileage
