// Every answer in one JSON.
#pragma once

#include <vector>

#include "analysis/answers/report.h"
#include "study/study_json.h"

namespace mileage {

Json report_json(const std::vector<Report>& reports);

}  // namespace mileage
