// Text that came from elsewhere, made fit to be shown or passed on.
#pragma once

#include <string>
#include <string_view>

namespace mileage {

/// A text that no terminal, page or figure takes for anything but text: control characters (C0 and C1, but for line
/// feeds and tabs), characters that turn the direction of writing, and bytes that are not UTF-8 become "?".
std::string printable(std::string_view text);
/// The same on one line: line feeds, carriage returns and tabs become blanks.
std::string printable_line(std::string_view text);

/// At most `most` bytes of a text, cut between characters; what was cut is said: "... (20,000,000 bytes)".
std::string shortened(std::string_view text, std::size_t max);

/// A text with every path in it cut to its last part.
std::string without_paths(const std::string& text);

/// A word as a shell needs it: quoted where it holds anything but plain characters.
std::string shell_word(const std::string& word);

/// One of a plural: "lanterns" becomes "lantern", "boxes" becomes "box", "bodies" becomes "body".
std::string singular(const std::string& plural);

}  // namespace mileage
