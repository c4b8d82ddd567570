// What other work on the machine may have added to the costs of a series, beyond the waiting that is subtracted.
#pragma once

#include <map>
#include <vector>

#include "analysis/evidence/judged_run.h"

namespace mileage {

using JudgedRuns = std::vector<const JudgedRun*>;

/// How much longer frames may have taken, log scale, because threads of the machine waited for a core and the frames do
/// not tell how long theirs did; 0 where they tell, and where nothing waited.
double unseen_waiting(const Head& head, const Run& run);

/// Runs of one series whose frames lacked cores: how much longer they may have taken, log scale, from what they took to
/// their processor time shared evenly by as many cores as they use elsewhere. Empty where frames use one core.
std::map<const Run*, double> lacking_cores(const JudgedRuns& runs);

}  // namespace mileage
