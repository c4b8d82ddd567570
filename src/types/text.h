// Sanitises foreign text.
#pragma once

#include <string>
#include <string_view>

namespace mileage {

/// Control characters except line feeds and tabs, bidirectional controls and invalid UTF-8 become "?".
std::string printable(std::string_view text);
/// On one line: line feeds, carriage returns and tabs become blanks.
std::string printable_line(std::string_view text);

/// At most `max` bytes, at character borders: "... (20,000,000 bytes)".
std::string shortened(std::string_view text, std::size_t max);

/// Paths are cut to base names.
std::string without_paths(const std::string& text);

/// Quoted if needed.
std::string shell_word(const std::string& word);

/// "lanterns" to "lantern", "boxes" to "box", "bodies" to "body".
std::string singular(const std::string& plural);

}  // namespace mileage
