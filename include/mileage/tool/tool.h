#pragma once

#include "mileage/types/catalogue.h"

namespace mileage {

/// The command line over your catalogue: `return mileage::run_tool(argc, argv, catalogue);`. Also answers requests of
/// run processes. Answers go to standard output, messages to standard error. Returns the exit code
/// (docs/reference/verbs.md). Never throws.
int run_tool(int argc, char** argv, const Catalogue& catalogue);

}  // namespace mileage
