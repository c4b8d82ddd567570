// The answers of studies as JSON, one envelope for every verb: {"verb", "format", "axis", "warnings", ...}. Rows carry
// "series", "variant" and "knobs", and "study" where several studies were given.
#pragma once

#include <vector>

#include "analysis/findings.h"
#include "study/study_json.h"

namespace mileage {

/// Version of the JSON that verbs print.
inline constexpr int answer_format = 1;

/// What is the same in the answers of all verbs: names, warnings, failures.
Json envelope(const char* verb, const std::vector<Findings>& studies);

/// "scenarios", with their variants and knobs.
Json scenarios_json(const std::vector<Scenario>& scenarios);
/// "capacities".
Json capacity_json(const std::vector<Findings>& studies);
/// "break_evens", "none" and "costs".
Json break_even_json(const std::vector<Findings>& studies);
/// "choices", "at" (what to do at the places asked for) and "everywhere".
Json choose_json(const std::vector<Findings>& studies);
/// "curves", and "against" where one was asked for.
Json curve_json(const std::vector<Findings>& studies);
/// All of the above and "choices" in one.
Json report_json(const std::vector<Findings>& studies);

}  // namespace mileage
