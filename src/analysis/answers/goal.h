// Precision reached for the figure that a study is for.
#pragma once

#include <optional>

#include "study/study.h"

namespace mileage {

struct Reached {
  std::size_t figures = 0;           ///< Capacities or break-evens that exist.
  std::optional<double> half_width;  ///< Relative, of the widest interval: 0.03 is +-3 %. Nothing while one is missing.
};

/// Of a goal without a figure: capacities at the plan's budget. One joint fit.
Reached reached(const Study& study, const Goal& goal);

}  // namespace mileage
