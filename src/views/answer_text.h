// An answer as text.
#pragma once

#include <string>

#include "views/answer.h"

namespace mileage {

/// The verdict, the tables that support it, notes, the next commands; each part ends with an empty line. With `more`
/// also what is left to --more. Tables are folded to `columns`.
std::string answer_text(const Answer& answer, bool more = false, std::size_t columns = 100);

}  // namespace mileage
