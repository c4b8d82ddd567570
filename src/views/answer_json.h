// What the JSON of every answer shares: one envelope for every verb, {"verb", "format", "axis", "warnings", ...}, and
// rows that carry "series", "variant" and "knobs", and "study" where several studies were given.
#pragma once

#include <optional>
#include <vector>

#include "analysis/answers/about.h"
#include "analysis/curves/reading.h"
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

/// The beginning of a row on one series.
Json row_of(const About& about, std::size_t series);
/// The beginning of a row on several series: the study, where several were given.
Json row_of(const About& about);

Json optional_json(const std::optional<double>& value);
/// A place on the axis; where places are whole numbers, a whole number.
Json place_json(double x, const Axis& axis);
Json place_json(const std::optional<double>& x, const Axis& axis);
/// "low" and "high" of an interval, under these names.
void add_interval(Json& row, const Interval& interval, const char* low = "low", const char* high = "high");

const char* source_name(Source source);

}  // namespace mileage
