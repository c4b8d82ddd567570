#include "study/json_text.h"

#include <nlohmann/json.hpp>

namespace mileage {

Json parsed_json(std::string_view text) { return Json::parse(text, nullptr, false); }

std::string to_line(const Json& json) { return json.dump(-1, ' ', false, Json::error_handler_t::replace); }

std::string to_text(const Json& json) { return json.dump(2, ' ', false, Json::error_handler_t::replace) + "\n"; }

}  // namespace mileage
