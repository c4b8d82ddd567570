// What stands on the horizontal axis: the count, or a numeric knob, or a counter.
#pragma once

#include <string>

#include "study/study.h"

namespace mileage {

inline constexpr const char* count_axis = "count";

/// A study whose visits stand on another axis. Over a knob: series are divided by count instead of by the knob ("count"
/// joins the knobs of the scenario, the knob leaves them), and series that the knob does not touch are left out. Over a
/// counter: a cell stands at the median over its visits of the counter per frame. Over "count": the study as it is. Throws
/// Error (usage) for a name that is neither, with the nearest that is, for a knob without numbers, and for one that the
/// study holds at a single value.
Study along(Study study, const std::string& axis);

}  // namespace mileage
