// Answers as JSON: one envelope for every verb, {"verb", "format", "axis", "warnings", ...}, and a list for each table.
#pragma once

#include <vector>

#include "analysis/answers/about.h"
#include "study/study_json.h"
#include "views/answer.h"

namespace mileage {

/// Version of the JSON that verbs print.
inline constexpr int answer_format = 2;

/// What is the same in the answers of all verbs: names, warnings, failures.
Json envelope(const char* verb, const std::vector<About>& studies = {});

/// Adds verdict, notes, next commands, and every table as a list of rows under its name. A column is a field: null
/// where a cell has no value, with NAME_missing where it says why; its interval is NAME_low and NAME_high.
void add_answer_json(Json& json, const Answer& answer);

/// The list of that name in an answer; added where it is not there yet.
Json& rows_of(Json& answer, const char* name);

/// A place on the axis; where places are whole numbers, a whole number.
Json place_json(double x, const Axis& axis);

}  // namespace mileage
