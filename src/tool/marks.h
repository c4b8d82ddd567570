// Marks our pages and figures; only marked files are replaced.
#pragma once

#include <string>

namespace mileage {

/// For PNG, SVG and HTML; other bytes are unchanged.
std::string with_mark(const std::string& bytes);
/// `start`: first bytes of a file.
bool has_mark(const std::string& start);

}  // namespace mileage
