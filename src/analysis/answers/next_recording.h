// Which recording would help a study of recordings most.
#pragma once

#include <cstdint>
#include <string>

#include "analysis/answers/about.h"
#include "analysis/answers/capacity.h"
#include "analysis/answers/growth.h"

namespace mileage {

/// A recording worth making.
struct NextRecording {
  std::string label;  ///< Of the series.
  std::int64_t count = 0;
  std::string why;  ///< "nothing was recorded near its capacity".
};

/// For the first budget: the series whose capacity is known least. Where its recordings were capped, the largest of
/// those. Beyond its largest count where that still holds the budget, at its capacity where no count stands close to
/// it, and there again otherwise. The axis must be the count.
NextRecording next_recording(const About& about, const CapacityAnswer& capacities, const GrowthAnswer& growth);

}  // namespace mileage
