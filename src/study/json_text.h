// JSON text, parsed and written in one source for compile time.
#pragma once

#include <string>
#include <string_view>

#include <nlohmann/json_fwd.hpp>

namespace mileage {

using Json = nlohmann::ordered_json;

/// is_discarded() unless exactly one JSON value.
Json parsed_json(std::string_view text);

/// Without a line feed. Invalid UTF-8 is replaced.
std::string to_line(const Json& json);
/// Indented, with a final line feed.
std::string to_text(const Json& json);

}  // namespace mileage
