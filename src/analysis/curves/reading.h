// How numbers are read from a curve.
#pragma once

#include <cstddef>

#include "analysis/statistics/interval.h"

namespace mileage {

/// Where a reading comes from.
enum class Source {
  local,         ///< From the counts close around it, whatever the law.
  law,           ///< Along a law that replication noise does not reject, within the measured range.
  interpolated,  ///< Between neighbouring points; no law describes the curve.
  extrapolated,  ///< Along a law, outside the measured range.
  step           ///< Between two measured places, with a jump in cost between them.
};

/// What a frame costs at a place.
struct CostReading {
  double ms = 0;
  Interval interval;  ///< 95 %.
};

/// Why no law was tested.
enum class NotTested { tested, too_few_blocks, too_few_places };

/// What the name of a law rests on, from the strictest.
enum class NamedBy {
  nothing,         ///< There is no name.
  noise,           ///< Replication noise does not reject the law: it agrees with the points.
  law_deviations,  ///< Noise and deviations from the law of 3 % at each place do not reject it.
  near,            ///< It stays within 10 % of every point.
  rough            ///< It stays within 20 %.
};

}  // namespace mileage
