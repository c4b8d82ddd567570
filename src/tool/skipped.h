// What was skipped, why, and which option keeps it.
#pragma once

#include <string>
#include <vector>

#include "measure/loop/progress.h"
#include "study/study_json.h"

namespace mileage {

/// One line per reason.
std::vector<std::string> skipped_lines(const Summary& summary, const Plan& plan);
/// [{"series", "counts", "reason", "kept_by"}]; "kept_by" may be null.
Json skipped_json(const Summary& summary, const Plan& plan);

}  // namespace mileage
