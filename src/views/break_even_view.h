// Break-evens as tables, sentences and JSON.
#pragma once

#include <string>
#include <vector>

#include "analysis/answers/about.h"
#include "analysis/answers/break_even.h"
#include "study/study_json.h"
#include "views/text_table.h"

namespace mileage {

/// One row per break-even.
TextTable break_even_table(const About& about, const BreakEvenAnswer& answer);
/// One line per pair without a break-even: which is cheaper, and how it is known.
std::vector<std::string> lines_without_break_even(const About& about, const BreakEvenAnswer& answer);
/// For each pair the place from which on one saves enough against the other.
TextTable worth_table(const About& about, const BreakEvenAnswer& answer);
/// Who beats whom from where on; where no pair crosses, which changes are worth it from where on. The first three.
std::string break_even_sentence(const About& about, const BreakEvenAnswer& answer);

/// Sentence, table, the pairs without a break-even, and from where on changes are worth it.
std::string break_even_text(const About& about, const BreakEvenAnswer& answer);
/// "break_evens", "none" and "worth_from".
void add_break_even_json(Json& json, const About& about, const BreakEvenAnswer& answer);

}  // namespace mileage
