// How cost grows, as tables, words and JSON.
#pragma once

#include <string>
#include <vector>

#include "analysis/answers/about.h"
#include "analysis/answers/growth.h"
#include "study/study_json.h"
#include "views/text_table.h"

namespace mileage {

/// Growth of each series: exponents, where it was measured, cost per entity there.
TextTable growth_table(const About& about, const GrowthAnswer& answer);
/// The laws that growth follows, in words.
TextTable law_table(const About& about, const GrowthAnswer& answer);
/// One line per knee: where, with its interval, and the cache that holds about as much.
std::vector<std::string> knee_lines(const About& about, const GrowthAnswer& answer);
/// Every cell of a series: milliseconds with interval, nanoseconds per entity.
TextTable point_table(const About& about, const SeriesGrowth& series);
/// Every cell of every series as CSV, with interval.
std::string summaries_csv(const About& about, const GrowthAnswer& answer);

/// Both tables and the knees.
std::string growth_text(const About& about, const GrowthAnswer& answer);
/// The points of every series.
std::string points_text(const About& about, const GrowthAnswer& answer);

/// "curves", each without its parts.
void add_growth_json(Json& json, const About& about, const GrowthAnswer& answer);

/// A law in words: "grows in proportion: 0.012 ms fixed + 61.2 ns a lantern".
std::string law_text(const NamedLaw& law, const Axis& axis);
/// All names of a curve: one, or several that the data cannot tell apart.
std::string laws_text(const std::vector<NamedLaw>& names, const Axis& axis);
/// What changes at a knee: "3.10 times steeper above 41k".
std::string knee_text(double at, double slope_below, double slope_above, const Axis& axis);
/// Name of a law as it stands in JSON: "constant", "linear", "power".
const char* law_name(LawKind kind);
/// Why no law was tested: "not tested: fewer than three blocks ...".
const char* not_tested_text(NotTested why);

}  // namespace mileage
