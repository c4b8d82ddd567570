// Capacities as tables, sentences and JSON.
#pragma once

#include <string>
#include <vector>

#include "analysis/answers/about.h"
#include "analysis/answers/capacity.h"
#include "study/study_json.h"
#include "views/text_table.h"

namespace mileage {

/// Capacity per series for one of the budgets.
TextTable capacity_table(const About& about, const CapacityAnswer& answer, double budget_ms);
/// What share of a budget the series take at the places asked for, and what is left of it.
TextTable headroom_table(const About& about, const CapacityAnswer& answer, double budget_ms);
/// What stands behind the table about 99 % of frames: what they are of, or how to get them and how long that takes.
std::string tail_line(const About& about, const CapacityAnswer& answer, double budget_ms);
/// Capacities of a study, for a table with those of others: columns and rows.
TextTable capacities_side_by_side();
void add_capacities_side_by_side(TextTable& table, const About& about, const CapacityAnswer& answer);
/// One sentence that answers first: who goes farthest, who least.
std::string capacity_sentence(const About& about, const CapacityAnswer& answer, double budget_ms);
/// Commands that measure what a capacity lacks where extrapolating ends.
std::vector<std::string> missing_measurements(const About& about, const CapacityAnswer& answer);

/// Sentence, capacities and headroom, budget by budget.
std::string capacity_text(const About& about, const CapacityAnswer& answer);
/// What to measure for the capacities that are missing; empty where none is.
std::string missing_measurements_text(const About& about, const CapacityAnswer& answer);

/// "capacities" and "headroom".
void add_capacity_json(Json& json, const About& about, const CapacityAnswer& answer);

/// Why there is no capacity.
const char* no_capacity_text(NoCapacity none);

}  // namespace mileage
