// What other work on the machine may have added to the costs of a series, beyond the waiting that is subtracted.
#pragma once

#include <vector>

#include "analysis/evidence/judged_run.h"

namespace mileage {

using JudgedRuns = std::vector<const JudgedRun*>;

/// Half-width, log scale, of costs whose frames do not tell how long they waited for a core, while something did; 0
/// where they tell, and where nothing waited. Needs one run.
double load_uncertainty(const Head& head, const JudgedRuns& runs);

/// By how much costs may be too high at each place, log scale, because others had cores that the frames use: from what
/// they took to their processor time shared evenly by as many cores as they use elsewhere. Empty where frames use one.
std::vector<double> taken_cores(const std::vector<JudgedRuns>& by_place);

}  // namespace mileage
