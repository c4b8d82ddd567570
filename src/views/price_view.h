// What a way asks of the programmer, and its size: the price of what it saves.
#pragma once

#include <cstddef>
#include <vector>

#include "analysis/answers/about.h"
#include "study/study_json.h"
#include "views/text_table.h"

namespace mileage {

/// One row for each variant of these series that has something to tell, in their order; empty where none has.
TextTable price_table(const About& about, const std::vector<std::size_t>& series);
/// The table with its title and an empty line; nothing where it is empty.
std::string price_text(const About& about, const std::vector<std::size_t>& series);

/// "prices": one row for each variant that has something to tell.
void add_price_json(Json& json, const About& about);

}  // namespace mileage
