// What a variant costs to write: lines and effort, as its scenario says.
#pragma once

#include <vector>

#include "analysis/answers/about.h"
#include "views/answer.h"

namespace mileage {

/// Of the variants of these series, each once.
Table effort_table(const About& about, const std::vector<std::size_t>& series);
/// Of all variants of the study.
Table effort_table(const About& about);

}  // namespace mileage
