// Series of a study that stand to choice under the same conditions.
#pragma once

#include <vector>

#include "analysis/evidence/evidence_set.h"
#include "analysis/evidence/labels.h"

namespace mileage {

/// Members are places among the series of the study, simplest variant first.
std::vector<Group> groups_among(const EvidenceSet& evidence);

/// Round counts, one per decade that most series have measured; the three largest of them. `ends`: how far each was
/// measured.
std::vector<double> usual_places(const std::vector<double>& ends);

}  // namespace mileage
