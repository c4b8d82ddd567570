// Time that other load may have added to costs, beyond subtracted waiting.
#pragma once

#include <map>
#include <vector>

#include "analysis/evidence/judged_run.h"

namespace mileage {

using JudgedRuns = std::vector<const JudgedRun*>;

/// Waiting for a core that frames do not report, log scale; 0 if reported or none.
double unseen_waiting(const Head& head, const Run& run);

/// How much longer runs may have taken for lack of cores, log scale, by their CPU time and the cores used elsewhere.
/// Empty if frames use one core.
std::map<const Run*, double> lacking_cores(const JudgedRuns& runs);

}  // namespace mileage
