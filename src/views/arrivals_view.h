// Arrivals as people read them, and as JSON.
#pragma once

#include <string>

#include "analysis/answers/about.h"
#include "analysis/answers/arrivals.h"
#include "analysis/answers/capacity.h"
#include "study/study_json.h"
#include "views/text_table.h"

namespace mileage {

/// Capacities by settled frames and by the worst frames after arrivals, side by side, for one budget.
TextTable worst_frames_table(const About& about, const ArrivalsAnswer& answer, const CapacityAnswer& capacities,
                             double budget_ms);
/// What arrivals add, by how many come.
TextTable arrival_sizes_table(const About& about, const ArrivalsAnswer& answer);
/// Both, for every budget; nothing where nobody arrived.
std::string arrivals_text(const About& about, const ArrivalsAnswer& answer, const CapacityAnswer& capacities);

void add_arrivals_json(Json& json, const About& about, const ArrivalsAnswer& answer);

}  // namespace mileage
