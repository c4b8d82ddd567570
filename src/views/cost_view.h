// What a frame costs, as tables and JSON.
#pragma once

#include <string>

#include "analysis/answers/about.h"
#include "analysis/answers/cost.h"
#include "study/study_json.h"
#include "views/text_table.h"

namespace mileage {

/// What a frame costs at given places, per series of a group, and which share of the first series' time that is.
TextTable cost_table(const About& about, const GroupCosts& group);

/// A table for each group.
std::string cost_text(const About& about, const CostAnswer& answer);
/// "costs".
void add_cost_json(Json& json, const About& about, const CostAnswer& answer);

}  // namespace mileage
