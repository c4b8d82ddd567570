// The strip: one bar along the axis that shows which variant to use where.
#pragma once

#include <string>

#include "analysis/answers/about.h"
#include "analysis/answers/capacity.h"
#include "analysis/answers/choice.h"

namespace mileage {

/// The strip of a group for a terminal of at least `width` + 4 columns: a bar with the name of what to use, `/` where
/// no difference pays off, `=` where it matters, `-` where no choice is known, since what is in use below was not
/// measured, `.` where even the best is over the budget; below it the axis with decades, and the capacities that lie in
/// the range. Several lines, each ended by a line feed.
std::string terminal_strip(const About& about, const GroupChoice& group, const CapacityAnswer& capacities,
                           std::size_t width = 72);

/// What the signs mean, in one line.
std::string strip_legend();

}  // namespace mileage
