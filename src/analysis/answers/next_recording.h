// The recording that would help a study of recordings most.
#pragma once

#include <cstdint>
#include <string>

#include "analysis/answers/about.h"
#include "analysis/answers/capacity.h"
#include "analysis/answers/growth.h"

namespace mileage {

struct NextRecording {
  std::string label;
  std::int64_t count = 0;
  std::string why;  ///< "nothing was recorded near its capacity".
};

/// Of the series whose capacity is least known, for the first budget. The axis must be the count.
NextRecording next_recording(const About& about, const CapacityAnswer& capacities, const GrowthAnswer& growth);

}  // namespace mileage
