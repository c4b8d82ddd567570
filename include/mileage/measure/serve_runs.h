// For programs with their own main.
#pragma once

#include <optional>

#include "mileage/types/catalogue.h"

namespace mileage {

/// Makes a run, or describes the catalogue, if Mileage started this process. Put it first in main:
///
///     if (const auto code = mileage::serve_runs(argc, argv, catalogue)) return *code;
///
/// Returns the exit code, or nothing in an ordinary run, which costs one string comparison. Never throws. `mileage
/// measure --program PATH` then measures the program.
std::optional<int> serve_runs(int argc, char** argv, const Catalogue& catalogue);

}  // namespace mileage
