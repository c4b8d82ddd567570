// What must be said before any answer.
#pragma once

#include <string>
#include <vector>

#include "analysis/findings.h"

namespace mileage {

/// In sentences, gravest first: builds and machines whose times mean little, devices, variants left out, files that were odd, and
/// evidence that is thin or disturbed. Everything else of the findings must be filled in.
std::vector<std::string> warnings_of(const Findings& findings, const Study& study);

}  // namespace mileage
