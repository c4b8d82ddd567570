// The command line of Mileage over a catalogue of one's own.
#pragma once

#include "mileage/types/catalogue.h"

namespace mileage {

/// Runs the tool: `return mileage::run_tool(argc, argv, catalogue);` is a whole main. Answers the requests of run
/// processes too. Prints to standard output, messages to standard error. Returns the exit code
/// (docs/reference/verbs.md). Never throws.
int run_tool(int argc, char** argv, const Catalogue& catalogue);

}  // namespace mileage
