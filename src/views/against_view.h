// Series held against one variant, as tables and JSON.
#pragma once

#include <string>
#include <vector>

#include "analysis/answers/about.h"
#include "analysis/answers/against.h"
#include "study/study_json.h"
#include "views/text_table.h"

namespace mileage {

/// A series held against another, place by place.
TextTable against_table(const About& about, const SeriesAgainst& one);

/// A table for each series; empty where none is held against another.
std::string against_text(const About& about, const std::vector<SeriesAgainst>& answer);
/// "against".
void add_against_json(Json& json, const About& about, const std::vector<SeriesAgainst>& answer);

}  // namespace mileage
