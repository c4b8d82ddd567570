// Answers as JSON: {"verb", "format", "axis", "warnings", ...} and a list per table.
#pragma once

#include <vector>

#include "analysis/answers/about.h"
#include "study/study_json.h"
#include "views/answer.h"

namespace mileage {

inline constexpr int answer_format = 2;

/// Names, warnings and failures, common to all verbs.
Json envelope(const char* verb, const std::vector<About>& studies = {});

/// Adds verdict, notes, next commands and tables. A field per column: null without value, with NAME_missing if there is
/// a reason; intervals as NAME_low and NAME_high.
void add_answer_json(Json& json, const Answer& answer);

/// Added if missing.
Json& rows_of(Json& answer, const char* name);

/// An integer for whole axes.
Json place_json(double x, const Axis& axis);

}  // namespace mileage
