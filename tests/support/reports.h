#pragma once

#include <string>

#include "analysis/analysed_study.h"
#include "analysis/answers/report.h"

namespace mileage {

inline Report report_of(const Study& study, const Questions& questions = {}, const std::string& axis = count_axis) {
  return report_of(AnalysedStudy(study, {.axis = axis}).analysis(), questions);
}

}  // namespace mileage
