// Predicted costs of checks, from runs of the series and of references.
#pragma once

#include <optional>

#include "measure/loop/progress.h"
#include "measure/loop/study_state.h"

namespace mileage {

/// Nothing if unknown. Beyond the largest known count frames grow with their exponent so far.
std::optional<RunCost> check_cost(const StudyState& state, const Series& of, std::int64_t count);

/// Runs an unmeasured, possibly slow reference at the smallest count and then at 4x each, up to `largest` and while the
/// next would fit into `max_s` with the growth so far.
void check_reference(StudyState& state, const Series& reference, std::int64_t largest, double max_s,
                     Progress& progress);

}  // namespace mileage
