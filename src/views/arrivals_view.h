// Frames in which entities arrive, as a part of `capacity`.
#pragma once

#include "analysis/answers/about.h"
#include "analysis/answers/arrivals.h"
#include "analysis/answers/capacity.h"
#include "views/answer.h"

namespace mileage {

/// How far each goes by its worst frames, and what arrivals of each size cost; nothing where none arrived.
Answer arrivals_view(const About& about, const ArrivalsAnswer& answer, const CapacityAnswer& capacities);

}  // namespace mileage
