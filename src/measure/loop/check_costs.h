// What checks will take: of series as their runs told, of a reference that is not measured as a few looks tell.
#pragma once

#include <optional>

#include "measure/loop/progress.h"
#include "measure/loop/study_state.h"

namespace mileage {

/// What a check of a series costs at a count, its set-up beside its frames; nothing where that is not known. Beyond the
/// largest count known, frames are taken to grow by the power at which they grew before.
std::optional<RunCost> check_cost(const StudyState& state, const Series& of, std::int64_t count);

/// Looks at a reference that is not measured, which may be far slower than what is: from the smallest count of the plan
/// on, each count four times the one before, up to `largest`, and as long as the next look fits into this many seconds
/// even where frames grow with the square.
void check_reference(StudyState& state, const Series& reference, std::int64_t largest, double max_s,
                     Progress& progress);

}  // namespace mileage
