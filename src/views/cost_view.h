// What a frame costs, as tables and JSON.
#pragma once

#include <string>
#include <vector>

#include "analysis/answers/about.h"
#include "analysis/answers/cost.h"
#include "study/study_json.h"
#include "views/text_table.h"

namespace mileage {

/// What a frame costs at given places, per series of a group: whether that is within the budget, and what it saves
/// against the first series.
TextTable cost_table(const About& about, const CostAnswer& answer, std::size_t group);

/// What stands at one place, in one sentence: costs, whether they fit, what is gained.
std::string cost_sentence(const About& about, const GroupCosts& group, const PlaceCosts& place,
                          const CostAnswer& answer);

/// What else differs between the members of a group, under a first line that says where.
std::vector<std::string> trait_lines(const About& about, const GroupCosts& group);

/// A sentence for each group at the largest place shown, then its table and what else differs.
std::string cost_text(const About& about, const CostAnswer& answer);
/// "costs" and "traits".
void add_cost_json(Json& json, const About& about, const CostAnswer& answer);

}  // namespace mileage
