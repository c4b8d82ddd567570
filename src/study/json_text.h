// JSON and its text. Reading and writing of it is compiled here alone, since that takes long.
#pragma once

#include <string>
#include <string_view>

#include <nlohmann/json_fwd.hpp>

namespace mileage {

using Json = nlohmann::ordered_json;

/// What a text says; is_discarded() where it is no JSON, or more than one value.
Json parsed_json(std::string_view text);

/// One line without a line feed. Bytes that are not UTF-8 (from a program's messages) are replaced.
std::string to_line(const Json& json);
/// The same over several lines, for people, with a line feed at the end.
std::string to_text(const Json& json);

}  // namespace mileage
