// Studies answered in one call.
#pragma once

#include <string>

#include "analysis/analysed_study.h"
#include "analysis/answers/report.h"

namespace mileage {

/// Every answer to a study over an axis.
inline Report report_of(const Study& study, const Questions& questions = {}, const std::string& axis = count_axis) {
  return report_of(AnalysedStudy(study, {.axis = axis}).analysis(), questions);
}

}  // namespace mileage
