// How numbers are read from a curve.
#pragma once

#include "analysis/statistics/interval.h"

namespace mileage {

/// Where a reading comes from.
enum class Source {
  measured,      ///< From the curve within the measured range.
  extrapolated,  ///< Outside the measured range.
  step           ///< Between two measured places, with a jump in cost between them.
};

/// What a frame costs at a place.
struct CostReading {
  double ms = 0;
  Interval interval;  ///< 95 %.
};

/// Why a curve has no name.
enum class NotNamed {
  named,
  too_few_places,  ///< Any law would fit.
  too_uncertain,   ///< The same, for other reasons.
  like_none        ///< No law fits.
};

}  // namespace mileage
