// Makes a run in this process.
#pragma once

#include "measure/in_process/run_bracket.h"
#include "mileage/types/catalogue.h"

namespace mileage {

/// Most samples that a run keeps; very short frames end there even before `min_ms`.
inline constexpr std::size_t max_samples = 20'000;

/// A sample shorter than this many readings of the clock is made of several frames instead.
inline constexpr double readings_per_sample = 100;

/// Does what a scenario prepares, once in each process; nothing where it prepares nothing. What that throws comes
/// through.
void prepare_once(const Catalogue& catalogue, const std::string& scenario);

/// Prepares where that is still to do, sets up, warms up, measures with the yardstick between frames, and reads the
/// outcome. Fills everything that happens inside a run; block, order and status are the caller's. What a variant
/// throws becomes a failed run with its message as the reason. So does a scenario or variant that the catalogue does
/// not hold, an outcome with a value that is no number, a world that does not hold as many entities as asked for, and a
/// frame that is too fast to be true.
Run make_run(const RunRequest& request, const Catalogue& catalogue, const Instruments& instruments);

}  // namespace mileage
