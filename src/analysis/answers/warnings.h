// Warnings shown before any answer.
#pragma once

#include <string>
#include <vector>

#include "analysis/evidence/evidence_set.h"

namespace mileage {

/// Sentences, most serious first: builds and machines, devices, excluded variants, files, and thin or disturbed
/// evidence.
std::vector<std::string> warnings_of(const EvidenceSet& evidence);

}  // namespace mileage
