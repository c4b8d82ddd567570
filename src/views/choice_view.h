// Which variant to use where, as tables, sentences and JSON.
#pragma once

#include <string>
#include <vector>

#include "analysis/answers/about.h"
#include "analysis/answers/capacity.h"
#include "analysis/answers/choice.h"
#include "study/study_json.h"
#include "views/text_table.h"

namespace mileage {

/// From where to where which series is to be used.
TextTable choice_table(const About& about, const GroupChoice& group);
/// The series that are used somewhere, and the first one.
std::vector<std::size_t> chosen_series(const GroupChoice& group);
/// What each series would lose if it were used everywhere.
TextTable everywhere_table(const About& about, const GroupChoice& group);
/// What frames cost at a place that was asked for, whether anything is worth changing there, and from where on it is.
std::string advice_sentence(const About& about, const GroupChoice& group, const Advice& advice);
/// What "no difference worth it" means in this study.
std::string worth_text(const About& about, const ChoiceAnswer& answer);

/// The reader's own place first, then group by group what to use from where to where, and what those ways ask for; with
/// `more` what one variant everywhere would lose, and the strip.
std::string choice_text(const About& about, const ChoiceAnswer& answer, const CapacityAnswer& capacities, bool more);
/// The strips alone, with what their signs mean.
std::string strips_text(const About& about, const ChoiceAnswer& answer, const CapacityAnswer& capacities);

/// "choices", "at" (what to do at the places asked for), "everywhere" and "prices".
void add_choice_json(Json& json, const About& about, const ChoiceAnswer& answer);

}  // namespace mileage
