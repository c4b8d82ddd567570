// A description of a record's fields, once for everything that knows them: JSON out and in, the check of what came in,
// the JSON schema, and the tables in docs. A new field of a record is a member of its struct and a line of its
// description.
#pragma once

#include <cmath>
#include <functional>
#include <limits>
#include <map>
#include <optional>
#include <string>
#include <type_traits>
#include <utility>
#include <vector>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "study/json_fields.h"
#include "types/error.h"

namespace mileage {

/// One field of a record, as it stands in JSON.
template <class Record>
struct Field {
  std::string name;
  std::string meaning;
  std::string unit;  ///< Empty for texts and pure numbers.
  std::string type;  ///< In words: "text", "whole number", "list of numbers" ...
  Json schema;       ///< Of its value.
  int since = 1;     ///< Version of the format.
  bool is_required = false;
  /// Whether a record of that kind must have it; looked at when all of its fields are read.
  std::function<bool(const Record&)> is_required_of;

  /// The value in a record; nothing where the field is left out.
  std::function<std::optional<Json>(const Record&)> value;
  /// Takes the value from JSON; not called where the field is missing.
  std::function<void(const Json&, Record&)> take;
  /// What cannot be in a record, whoever filled it; nothing where all is well.
  std::function<std::optional<Fault>(const Record&)> fault = [](const Record&) { return std::nullopt; };
};

template <class Record>
using Fields = std::vector<Field<Record>>;

/// The description of a record; specialised where the record's fields are described.
template <class Record>
const Fields<Record>& fields_of();

template <class Record>
Json fields_json(const Record& record) {
  Json json = Json::object();
  for (const Field<Record>& field : fields_of<Record>())
    if (auto value = field.value(record)) json[field.name] = std::move(*value);
  return json;
}

/// Throws Error (bad input) that names the field, for one that is missing and for a value of the wrong type. Fields
/// that are not known are ignored.
template <class Record>
void take_fields(const Json& json, Record& record) {
  for (const Field<Record>& field : fields_of<Record>()) {
    const Json* found = field_if_there(json, field.name.c_str());
    if (found != nullptr)
      field.take(*found, record);
    else if (field.is_required)
      field_of(json, field.name.c_str());  // throws
  }
  for (const Field<Record>& field : fields_of<Record>())
    if (field.is_required_of && field.is_required_of(record))
      field_of(json, field.name.c_str());  // throws where it is missing
}

template <class Record>
Record from_fields(const Json& json) {
  Record record;
  take_fields(json, record);
  return record;
}

template <class Record>
std::optional<Fault> first_fault(const Record& record) {
  for (const Field<Record>& field : fields_of<Record>())
    if (auto fault = field.fault(record)) return fault;
  return std::nullopt;
}

template <class Record>
Json fields_schema() {
  Json json;
  json["type"] = "object";
  Json required = Json::array();
  for (const Field<Record>& field : fields_of<Record>())
    if (field.is_required) required.push_back(field.name);
  if (!required.empty()) json["required"] = required;
  for (const Field<Record>& field : fields_of<Record>()) {
    Json& property = json["properties"][field.name];
    property["description"] = field.unit.empty() ? field.meaning : field.meaning + " Unit: " + field.unit + ".";
    property.update(field.schema);
  }
  return json;
}

/// How values of a type stand in JSON.
template <class Value>
struct JsonForm;

template <>
struct JsonForm<std::string> {
  static constexpr const char* type = "text";
  static Json schema() { return {{"type", "string"}}; }
  static Json json(const std::string& value) { return value; }
  static std::string value(const Json& json, const std::string& field) { return read_value<std::string>(json, field); }
};
template <>
struct JsonForm<bool> {
  static constexpr const char* type = "true or false";
  static Json schema() { return {{"type", "boolean"}}; }
  static Json json(bool value) { return value; }
  static bool value(const Json& json, const std::string& field) { return read_value<bool>(json, field); }
};
template <>
struct JsonForm<double> {
  static constexpr const char* type = "number";
  static Json schema() { return {{"type", "number"}}; }
  static Json json(double value) { return value; }
  static double value(const Json& json, const std::string& field) { return read_value<double>(json, field); }
};
template <class Whole>
struct WholeJsonForm {
  static constexpr const char* type = "whole number";
  static Json schema() { return {{"type", "integer"}}; }
  static Json json(Whole value) { return value; }
  static Whole value(const Json& json, const std::string& field) { return read_value<Whole>(json, field); }
};
template <>
struct JsonForm<int> : WholeJsonForm<int> {};
template <>
struct JsonForm<std::int64_t> : WholeJsonForm<std::int64_t> {};
template <>
struct JsonForm<std::uint64_t> : WholeJsonForm<std::uint64_t> {
  static Json schema() { return {{"type", "integer"}, {"minimum", 0}}; }
};

/// A record whose fields are described.
template <class Record>
struct RecordJsonForm {
  static constexpr const char* type = "object";
  static Json schema() { return fields_schema<Record>(); }
  static Json json(const Record& record) { return fields_json(record); }
  static Record value(const Json& json, const std::string& field) {
    if (!json.is_object()) refuse_field(field, "the value has the wrong type", &json, "an object");
    return from_fields<Record>(json);
  }
};

template <class Item>
struct JsonForm<std::vector<Item>> {
  static constexpr const char* type = "list";
  static Json schema() { return {{"type", "array"}, {"items", JsonForm<Item>::schema()}}; }
  static Json json(const std::vector<Item>& items) {
    Json json = Json::array();
    for (const Item& item : items) json.push_back(JsonForm<Item>::json(item));
    return json;
  }
  static std::vector<Item> value(const Json& json, const std::string& field) {
    if (!json.is_array()) refuse_field(field, "the value has the wrong type", &json, "a list");
    std::vector<Item> items;
    items.reserve(json.size());
    for (const Json& item : json) items.push_back(JsonForm<Item>::value(item, field));
    return items;
  }
};

template <>
struct JsonForm<std::map<std::string, double>> {
  static constexpr const char* type = "numbers by name";
  static Json schema() { return {{"type", "object"}, {"additionalProperties", {{"type", "number"}}}}; }
  static Json json(const std::map<std::string, double>& numbers) { return numbers; }
  static std::map<std::string, double> value(const Json& json, const std::string& field) {
    if (!json.is_object()) refuse_field(field, "the value has the wrong type", &json, "an object of numbers");
    std::map<std::string, double> numbers;
    for (const auto& [name, number] : json.items()) numbers[name] = read_value<double>(number, field);
    return numbers;
  }
};

/// Describes the field of a record that is one of its members.
template <class Record>
class FieldMaker {
 public:
  template <class Value>
  FieldMaker(const char* name, Value Record::*member, const char* meaning) {
    begin(name, meaning, JsonForm<Value>::type, JsonForm<Value>::schema());
    field_.value = [member](const Record& record) { return std::optional(JsonForm<Value>::json(record.*member)); };
    field_.take = [member, text = std::string(name)](const Json& json, Record& record) {
      record.*member = JsonForm<Value>::value(json, text);
    };
    if constexpr (std::is_arithmetic_v<Value>)
      number_ = [member](const Record& record) { return std::optional<double>(static_cast<double>(record.*member)); };
    // Whatever stands for nothing is left out where sparse() is asked for.
    is_preset_ = [member](const Record& record) {
      return JsonForm<Value>::json(record.*member) == JsonForm<Value>::json(Record().*member);
    };
  }

  /// Left out where it is not known; null reads as not known.
  template <class Value>
  FieldMaker(const char* name, std::optional<Value> Record::*member, const char* meaning) {
    begin(name, meaning, JsonForm<Value>::type, JsonForm<Value>::schema());
    field_.value = [member](const Record& record) {
      return record.*member ? std::optional(JsonForm<Value>::json(*(record.*member))) : std::nullopt;
    };
    field_.take = [member, text = std::string(name)](const Json& json, Record& record) {
      if (!json.is_null()) record.*member = JsonForm<Value>::value(json, text);
    };
    if constexpr (std::is_arithmetic_v<Value>) number_ = [member](const Record& record) { return record.*member; };
  }

  /// A number that stands elsewhere in the record.
  FieldMaker(const char* name, std::function<std::optional<double>(const Record&)> get,
             std::function<void(double, Record&)> set, const char* meaning) {
    begin(name, meaning, JsonForm<double>::type, JsonForm<double>::schema());
    number_ = get;
    field_.value = [get](const Record& record) {
      const auto value = get(record);
      return value ? std::optional<Json>(*value) : std::nullopt;
    };
    field_.take = [set, text = std::string(name)](const Json& json, Record& record) {
      if (!json.is_null()) set(JsonForm<double>::value(json, text), record);
    };
  }

  /// A reader refuses a record without it.
  FieldMaker& required() {
    field_.is_required = true;
    return *this;
  }
  /// A reader refuses a record of that kind without it.
  FieldMaker& required_of(std::function<bool(const Record&)> kind) {
    field_.is_required_of = std::move(kind);
    return *this;
  }
  FieldMaker& in(const char* unit) {
    field_.unit = unit;
    return *this;
  }
  FieldMaker& since(int version) {
    field_.since = version;
    return *this;
  }
  /// Left out where it holds what it holds in a new record.
  FieldMaker& sparse() {
    return when([is_preset = is_preset_](const Record& record) { return !is_preset(record); });
  }
  /// Left out where the record is not of that kind. Several conditions hold together.
  FieldMaker& when(std::function<bool(const Record&)> applies) {
    field_.value = [inner = field_.value, applies](const Record& record) {
      return applies(record) ? inner(record) : std::nullopt;
    };
    field_.fault = [inner = field_.fault, applies](const Record& record) {
      return applies(record) ? inner(record) : std::nullopt;
    };
    return *this;
  }
  /// A number of at least so much; of whole numbers, and at most so much.
  FieldMaker& from(double least, double most = std::numeric_limits<double>::infinity()) {
    field_.schema["minimum"] = whole_if_possible(least);
    return within(least, most);
  }
  /// A number above 0.
  FieldMaker& above_zero() {
    field_.schema["exclusiveMinimum"] = 0;
    field_.fault = [number = number_, name = field_.name](const Record& record) -> std::optional<Fault> {
      const auto value = number(record);
      if (!value || *value > 0) return std::nullopt;
      return Fault{
          .field = name, .problem = "out of range", .found = fmt::format("{}", *value), .accepted = "a number above 0"};
    };
    return *this;
  }
  /// Any finite number.
  FieldMaker& finite() {
    return within(-std::numeric_limits<double>::infinity(), std::numeric_limits<double>::infinity());
  }
  /// A text that is not empty.
  FieldMaker& not_empty() {
    field_.schema["minLength"] = 1;
    return *this;
  }
  /// Nothing but one of these, as the schema has it.
  FieldMaker& schema(const char* keyword, Json value) {
    field_.schema[keyword] = std::move(value);
    return *this;
  }
  FieldMaker& fault(std::function<std::optional<Fault>(const Record&)> fault) {
    field_.fault = std::move(fault);
    return *this;
  }
  /// 0 reads as not known: writers before this field could be missing wrote 0 for what they did not know.
  FieldMaker& zero_is_unknown() {
    field_.take = [inner = field_.take](const Json& json, Record& record) {
      if (!json.is_number() || json.template get<double>() != 0) inner(json, record);
    };
    return *this;
  }

  operator Field<Record>() const { return field_; }

 private:
  void begin(const char* name, const char* meaning, const char* type, Json schema) {
    field_.name = name;
    field_.meaning = meaning;
    field_.type = type;
    field_.schema = std::move(schema);
  }
  static Json whole_if_possible(double number) {
    return number == std::floor(number) ? Json(static_cast<std::int64_t>(number)) : Json(number);
  }
  FieldMaker& within(double least, double most) {
    const bool is_whole = field_.type == JsonForm<int>::type;
    field_.fault = [number = number_, name = field_.name, least, most,
                    is_whole](const Record& record) -> std::optional<Fault> {
      const auto value = number(record);
      if (!value || (std::isfinite(*value) && *value >= least && *value <= most)) return std::nullopt;
      return Fault{.field = name,
                   .problem = std::isfinite(*value) ? "out of range" : "not a number",
                   .found = fmt::format("{}", *value),
                   .accepted = is_whole               ? fmt::format("a whole number from {:.0f} to {:.0f}", least, most)
                               : std::isfinite(least) ? fmt::format("{} or above", least)
                                                      : "a number"};
    };
    return *this;
  }

  Field<Record> field_;
  std::function<std::optional<double>(const Record&)> number_;
  std::function<bool(const Record&)> is_preset_;
};

}  // namespace mileage
