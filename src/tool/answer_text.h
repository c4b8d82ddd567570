// Whole answers of verbs as text for people, put together from the views.
#pragma once

#include <string>

#include "analysis/findings.h"

namespace mileage {

/// What must be said before any answer: warnings, and visits that failed.
std::string preamble(const Findings& findings);
std::string capacity_answer(const Findings& findings);
/// Capacities of several studies in one table.
std::string capacities_side_by_side(const std::vector<Findings>& studies);
/// The reader's own place first, then what to use from where to where, and what one variant everywhere would lose.
std::string choose_answer(const Findings& findings);
std::string break_even_answer(const Findings& findings);
std::string cost_answer(const Findings& findings);
std::string curve_answer(const Findings& findings, bool with_points, bool with_parts);
std::string choice_answer(const Findings& findings);
/// Study, blocks and machine; stands last.
std::string evidence_footer(const Findings& findings);

}  // namespace mileage
