#pragma once

#include <optional>

#include "study/study.h"
#include "types/error.h"

namespace mileage {

/// The first invalid value of a run from any source: not a number, time <= 0, count out of range. Outcomes may be NaN,
/// which agrees with nothing.
std::optional<Fault> fault_in(const Run& run);

}  // namespace mileage
