// The text of a plan as TOML, within limits: the package that parses it follows nesting by calling itself.
#pragma once

#include <cstdint>
#include <string>

#include <toml++/toml.h>

namespace mileage {

inline constexpr std::uintmax_t max_plan_bytes = std::uintmax_t{1} << 20U;
inline constexpr std::size_t max_plan_line = 20'000;  ///< Bytes.
inline constexpr int max_dots_in_plan_line = 64;      ///< Outside of texts: each nests a key one deeper.

/// Throws Error (bad input) with file and line: for a text that is larger, that has a longer line or a key nested
/// deeper, that is not UTF-8 or holds control characters, and for one that is no TOML.
toml::table parsed_plan(const std::string& text, const std::string& file);

}  // namespace mileage
