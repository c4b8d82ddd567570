// The one line for a program that has a long main of its own.
#pragma once

#include <optional>

#include "mileage/types/catalogue.h"

namespace mileage {

/// Tells whether this process was started by Mileage to make a run (or to describe its catalogue), and if so does it.
/// Put it first in main, before anything that costs time or opens a window:
///
///     if (const auto code = mileage::serve_runs(argc, argv, catalogue)) return *code;
///
/// Returns the exit code for main, or nothing when this is an ordinary run of the program. Costs one string comparison
/// in an ordinary run. Never throws. `mileage measure --program PATH` then measures the program.
std::optional<int> serve_runs(int argc, char** argv, const Catalogue& catalogue);

}  // namespace mileage
