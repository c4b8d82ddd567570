#pragma once

#include "measure/in_process/run_bracket.h"
#include "mileage/types/catalogue.h"

namespace mileage {

/// Very short frames end here even before `min_ms`.
inline constexpr std::size_t max_samples = 20'000;

/// Shorter samples consist of several frames.
inline constexpr double readings_per_sample = 100;

/// Runs a scenario's preparation once per process. Passes exceptions on.
void prepare_once(const Catalogue& catalogue, const std::string& scenario);

/// Prepares if needed, sets up, warms up, measures with the yardstick between frames, and reads the outcome. Block,
/// order and status are up to the caller. A failed run with a reason results from an exception, an unknown scenario or
/// variant, an outcome that is not a number, a wrong number of entities, and frames too fast to be true.
Run make_run(const RunRequest& request, const Catalogue& catalogue, const Instruments& instruments);

}  // namespace mileage
