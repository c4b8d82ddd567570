// Answers as a terminal shows them: no wider than it is, and coloured where that is wanted. Colour only repeats what
// the words say.
#pragma once

#include <cstddef>
#include <string>

#include "views/answer.h"

namespace mileage {

/// The line above commands that are to be copied; these stay whole.
inline constexpr const char* heading_of_commands = "Next";

/// The verdict, the tables that support it, notes, the next commands; each part ends with an empty line. With `more`
/// also what is left to --more. Tables are folded to `columns`.
std::string answer_text(const Answer& answer, bool more = false, std::size_t columns = 100);

struct Terminal {
  std::size_t columns = 100;
  bool colour = false;
};

/// Sentences wrapped at blanks, under their own indent; tables wrapped in their last column. Commands stay whole, so
/// that they can be copied, and so does a table whose other columns leave too little room.
/// With colour: the sentences of the first paragraph bold, warnings and failures amber, heads of tables and what stands
/// behind --more faint, and amber whatever is over a budget. Does not change text that fits, without colour.
std::string shown_on(const Terminal& terminal, const std::string& text);

}  // namespace mileage
