// Strip: a bar along the axis showing which variant to use.
#pragma once

#include <string>

#include "analysis/answers/about.h"
#include "analysis/answers/capacity.h"
#include "analysis/answers/choice.h"

namespace mileage {

/// For at least `width` + 4 columns: variant names, `/` no difference pays off, `=` it does, `-` unknown (the previous
/// one was not measured), `.` over budget; below, decades and capacities. Lines end with line feeds.
std::string terminal_strip(const About& about, const GroupChoice& group, const CapacityAnswer& capacities,
                           std::size_t width = 72);

std::string strip_legend();

}  // namespace mileage
