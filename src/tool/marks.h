// The mark in pages and figures that says who wrote them, so that only such files are replaced.
#pragma once

#include <string>

namespace mileage {

/// The bytes of a PNG, an SVG or an HTML page with the mark near their start; other bytes as they are.
std::string with_mark(const std::string& bytes);
/// Whether the first bytes of a file hold the mark.
bool has_mark(const std::string& start);

}  // namespace mileage
