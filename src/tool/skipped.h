// What of a plan was not measured, why, and which option would have kept it.
#pragma once

#include <string>
#include <vector>

#include "measure/loop/progress.h"
#include "study/study_json.h"

namespace mileage {

/// A line for all that was excluded for one reason; empty where nothing was.
std::vector<std::string> skipped_lines(const Summary& summary, const Plan& plan);
/// [{"series", "counts", "reason", "kept_by"}], "kept_by" null where no option would.
Json skipped_json(const Summary& summary, const Plan& plan);

}  // namespace mileage
