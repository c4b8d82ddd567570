// JSON field access with messages that name the field.
#pragma once

#include <cmath>
#include <cstdint>
#include <limits>
#include <map>
#include <optional>
#include <string>
#include <type_traits>
#include <vector>

#include <nlohmann/json.hpp>

#include "study/study_json.h"
#include "types/error.h"

namespace mileage {

[[noreturn]] inline void refuse_field(const std::string& field, const std::string& problem, const Json* found,
                                      const std::string& accepted) {
  Fault fault{.kind = FaultKind::bad_input, .field = field, .problem = problem, .accepted = accepted};
  // Nested values are only named.
  if (found != nullptr) fault.found = found->is_object() ? "an object" : found->is_array() ? "a list" : to_line(*found);
  throw Error(fault);
}

/// Required.
inline const Json& field_of(const Json& object, const char* field) {
  if (!object.is_object()) refuse_field(field, "an object was expected around it", &object, "a JSON object");
  const auto found = object.find(field);
  if (found == object.end()) refuse_field(field, "the field is missing", nullptr, "");
  return *found;
}

/// nullptr if absent.
inline const Json* field_if_there(const Json& object, const char* field) {
  if (!object.is_object()) refuse_field(field, "an object was expected around it", &object, "a JSON object");
  const auto found = object.find(field);
  return found == object.end() ? nullptr : &*found;
}

namespace json_detail {

template <class Value>
bool fits(const Json& json) {
  if constexpr (std::is_same_v<Value, std::string>) return json.is_string();
  if constexpr (std::is_same_v<Value, bool>) return json.is_boolean();
  if constexpr (std::is_integral_v<Value>) return json.is_number_integer();
  if constexpr (std::is_floating_point_v<Value>) return json.is_number();
  return false;
}

template <class Value>
bool holds(const Json& json) {
  if constexpr (std::is_integral_v<Value> && !std::is_same_v<Value, bool>) {
    if (json.is_number_unsigned())
      return json.get<std::uint64_t>() <= static_cast<std::uint64_t>(std::numeric_limits<Value>::max());
    const auto number = json.get<std::int64_t>();
    if constexpr (std::is_unsigned_v<Value>)
      return number >= 0;
    else
      return number >= std::numeric_limits<Value>::min() && number <= std::numeric_limits<Value>::max();
  }
  return true;
}

template <class Value>
const char* wording() {
  if constexpr (std::is_same_v<Value, std::string>) return "a text";
  if constexpr (std::is_same_v<Value, bool>) return "true or false";
  if constexpr (std::is_integral_v<Value>) return "a whole number";
  return "a number";
}

}  // namespace json_detail

template <class Value>
Value read_value(const Json& json, const std::string& field) {
  if (!json_detail::fits<Value>(json))
    refuse_field(field, "the value has the wrong type", &json, json_detail::wording<Value>());
  if constexpr (std::is_integral_v<Value> && !std::is_same_v<Value, bool>)
    if (!json_detail::holds<Value>(json))
      refuse_field(field, "out of range", &json,
                   "a whole number from " + std::to_string(std::numeric_limits<Value>::min()) + " to " +
                       std::to_string(std::numeric_limits<Value>::max()));
  return json.get<Value>();
}

template <class Value>
Value read_from(const Json& json, const std::string& field, Value min) {
  const Value value = read_value<Value>(json, field);
  if (!(value >= min)) refuse_field(field, "out of range", &json, "at least " + to_line(min));
  return value;
}

template <class Value>
Value read(const Json& object, const char* field) {
  return read_value<Value>(field_of(object, field), field);
}

template <class Value>
Value read_or(const Json& object, const char* field, Value otherwise) {
  const auto found = object.find(field);
  return found == object.end() ? otherwise : read_value<Value>(*found, field);
}

/// Unknown if absent.
inline std::optional<double> read_if_there(const Json& object, const char* field) {
  const auto found = object.find(field);
  if (found == object.end() || found->is_null()) return std::nullopt;
  return read_value<double>(*found, field);
}

inline const Json& read_array(const Json& object, const char* field) {
  const Json& array = field_of(object, field);
  if (!array.is_array()) refuse_field(field, "the value has the wrong type", &array, "a list");
  return array;
}

template <class Value>
std::vector<Value> read_list(const Json& object, const char* field) {
  std::vector<Value> values;
  const Json& array = read_array(object, field);
  values.reserve(array.size());
  for (const Json& one : array) values.push_back(read_value<Value>(one, field));
  return values;
}

inline std::map<std::string, double> read_numbers(const Json& object, const char* field) {
  std::map<std::string, double> numbers;
  const auto found = object.find(field);
  if (found == object.end()) return numbers;
  if (!found->is_object()) refuse_field(field, "the value has the wrong type", &*found, "an object of numbers");
  for (const auto& [name, value] : found->items()) numbers[name] = read_value<double>(value, field);
  return numbers;
}

}  // namespace mileage
