// Series relative to one variant, count by count: a part of `curve`.
#pragma once

#include <vector>

#include "analysis/answers/about.h"
#include "analysis/answers/against.h"
#include "views/answer.h"

namespace mileage {

Answer against_view(const About& about, const std::vector<SeriesAgainst>& answer);

}  // namespace mileage
