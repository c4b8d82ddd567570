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
  extrapolated   ///< Along a law, outside the measured range.
};

/// What a frame costs at a place.
struct CostReading {
  double ms = 0;
  Interval interval;  ///< 95 %.
};

/// Why no law was tested.
enum class NotTested { tested, too_few_blocks, too_few_places };

}  // namespace mileage
