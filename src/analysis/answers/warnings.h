// What must be said before any answer.
#pragma once

#include <string>
#include <vector>

#include "analysis/evidence/evidence_set.h"

namespace mileage {

/// In sentences, gravest first: builds and machines whose times mean little, devices, variants excluded, files that
/// were odd, and evidence that is thin or disturbed.
std::vector<std::string> warnings_of(const EvidenceSet& evidence);

}  // namespace mileage
