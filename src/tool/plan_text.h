// TOML within limits, since the parser recurses.
#pragma once

#include <cstdint>
#include <string>

#include <toml++/toml.h>

namespace mileage {

inline constexpr std::uintmax_t max_plan_bytes = std::uintmax_t{1} << 20U;
inline constexpr std::size_t max_plan_line = 20'000;  ///< Bytes.
inline constexpr int max_dots_in_plan_line = 64;      ///< Outside of quotes; each nests a key.

/// Throws Error (bad input) with file and line: too large, too long lines, too deep keys, not UTF-8, control
/// characters, no TOML.
toml::table parsed_plan(const std::string& text, const std::string& file);

}  // namespace mileage
