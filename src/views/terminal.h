// Answers for a terminal of given width, colored if wanted. Color only repeats words.
#pragma once

#include <cstddef>
#include <string>

#include "views/answer.h"

namespace mileage {

/// Commands below it are not wrapped.
inline constexpr const char* heading_of_commands = "Next";

/// Verdict, tables, notes, next commands, with empty lines between; `more` adds the rest. Tables are folded to
/// `columns`.
std::string answer_text(const Answer& answer, bool more = false, std::size_t columns = 100);

struct Terminal {
  std::size_t columns = 100;
  bool colour = false;
};

/// Wraps sentences and last columns; commands and too wide tables stay whole. Colors: verdict bold; warnings, failures
/// and over budget amber; table heads and --more faint. Text that fits is unchanged without color.
std::string shown_on(const Terminal& terminal, const std::string& text);

}  // namespace mileage
