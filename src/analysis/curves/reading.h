// Numbers read from a curve.
#pragma once

#include "analysis/statistics/interval.h"

namespace mileage {

enum class Source {
  measured,
  extrapolated,
  step  ///< Between two places with a step.
};

struct CostReading {
  double ms = 0;
  Interval interval;
};

enum class NotNamed {
  named,
  too_few_places,  ///< Any law would fit.
  too_uncertain,   ///< Any law would fit.
  like_none
};

}  // namespace mileage
