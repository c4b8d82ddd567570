// A description of a record's fields, once for everything that knows them: JSON out and in, the check of what came in,
// the JSON schema, and the tables in docs. A new field of a record is a member of its struct and a line of its
// description.
#pragma once

#include <functional>
#include <limits>
#include <map>
#include <optional>
#include <string>
#include <type_traits>
#include <utility>
#include <vector>

#include <nlohmann/json.hpp>

#include "study/json_fields.h"
#include "types/error.h"

namespace mileage {

/// One field of a record, as it stands in JSON. Records are passed without their type, so that all that is done with
/// fields is compiled once; FieldMaker knows the type.
struct Field {
  std::string name;
  std::string meaning;
  std::string unit;  ///< Empty for texts and pure numbers.
  std::string type;  ///< In words: "text", "whole number", "list of numbers" ...
  Json schema;       ///< Of its value.
  int since = 1;     ///< Version of the format.
  std::string was;   ///< Its name before version 3; empty where it is the same.
  bool is_required = false;
  /// Whether a record of that kind must have it; looked at when all of its fields are read.
  std::function<bool(const void*)> is_required_of;

  /// The value in a record; nothing where the field is excluded.
  std::function<std::optional<Json>(const void*)> value;
  /// Takes the value from JSON; not called where the field is missing.
  std::function<void(const Json&, void*)> take;
  /// What cannot be in a record, from any source; nothing where all is well.
  std::function<std::optional<Fault>(const void*)> fault = [](const void*) { return std::nullopt; };
};

using FieldList = std::vector<Field>;

/// The description of a record; specialised where the record's fields are described.
template <class Record>
const FieldList& fields_of();

/// Of records without their type.
Json fields_json(const FieldList& fields, const void* record);
void take_fields(const FieldList& fields, const Json& json, void* record);
std::optional<Fault> first_fault(const FieldList& fields, const void* record);
Json fields_schema(const FieldList& fields);

template <class Record>
Json fields_json(const Record& record) {
  return fields_json(fields_of<Record>(), &record);
}

/// Throws Error (bad input) that names the field, for one that is missing and for a value of the wrong type. Fields
/// that are not known are ignored.
template <class Record>
Record from_fields(const Json& json) {
  Record record;
  take_fields(fields_of<Record>(), json, &record);
  return record;
}

template <class Record>
std::optional<Fault> first_fault(const Record& record) {
  return first_fault(fields_of<Record>(), &record);
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
  static Json schema() { return fields_schema(fields_of<Record>()); }
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

/// Values by name.
template <class Value>
struct JsonForm<std::map<std::string, Value>> {
  static constexpr const char* type = std::is_same_v<Value, double> ? "numbers by name" : "lists by name";
  static Json schema() { return {{"type", "object"}, {"additionalProperties", JsonForm<Value>::schema()}}; }
  static Json json(const std::map<std::string, Value>& values) { return values; }
  static std::map<std::string, Value> value(const Json& json, const std::string& field) {
    if (!json.is_object()) refuse_field(field, "the value has the wrong type", &json, "an object");
    std::map<std::string, Value> values;
    for (const auto& [name, value] : json.items()) values[name] = JsonForm<Value>::value(value, field);
    return values;
  }
};

/// What is said of a field besides where it stands in its record.
class FieldBuilder {
 public:
  /// A reader refuses a record without it.
  FieldBuilder& required();
  FieldBuilder& in(const char* unit);
  FieldBuilder& since(int version);
  /// Its name before version 3; a reader takes both.
  FieldBuilder& was(const char* earlier_name);
  /// A number of at least so much; of whole numbers, and at most so much.
  FieldBuilder& from(double min, double max = std::numeric_limits<double>::infinity());
  /// A number above 0.
  FieldBuilder& above_zero();
  /// Any finite number.
  FieldBuilder& finite();
  /// A text that is not empty.
  FieldBuilder& not_empty();
  /// A further keyword of the schema.
  FieldBuilder& schema(const char* keyword, Json value);
  /// 0 reads as not known: writers before this field could be missing wrote 0 for what they did not know.
  FieldBuilder& zero_is_unknown();
  /// Omitted where it holds what it holds in a new record.
  FieldBuilder& sparse();

  /// Omitted where the record is not of that kind. Several conditions hold together.
  template <class Record>
  FieldBuilder& when(bool (*applies)(const Record&)) {
    return when_untyped([applies](const void* record) { return applies(*static_cast<const Record*>(record)); });
  }
  /// A reader refuses a record of that kind without it.
  template <class Record>
  FieldBuilder& required_of(bool (*kind)(const Record&)) {
    field_.is_required_of = [kind](const void* record) { return kind(*static_cast<const Record*>(record)); };
    return *this;
  }
  template <class Record>
  FieldBuilder& fault(std::optional<Fault> (*find)(const Record&)) {
    field_.fault = [find](const void* record) { return find(*static_cast<const Record*>(record)); };
    return *this;
  }

  operator Field() const { return field_; }

 protected:
  FieldBuilder(const char* name, const char* meaning, const char* type, Json schema);

  Field field_;
  std::optional<Json> default_;  ///< What it holds in a new record.

 private:
  FieldBuilder& when_untyped(std::function<bool(const void*)> applies);
  FieldBuilder& within(double min, double max);
};

/// Describes the field of a record that is one of its members.
template <class Record>
class FieldMaker : public FieldBuilder {
 public:
  template <class Value>
  FieldMaker(const char* name, Value Record::*member, const char* meaning)
      : FieldBuilder(name, meaning, JsonForm<Value>::type, JsonForm<Value>::schema()) {
    field_.value = [member](const void* record) {
      return std::optional(JsonForm<Value>::json(static_cast<const Record*>(record)->*member));
    };
    field_.take = [member, text = field_.name](const Json& json, void* record) {
      static_cast<Record*>(record)->*member = JsonForm<Value>::value(json, text);
    };
    default_ = JsonForm<Value>::json(Record().*member);
  }

  /// Omitted where it is not known; null reads as not known.
  template <class Value>
  FieldMaker(const char* name, std::optional<Value> Record::*member, const char* meaning)
      : FieldBuilder(name, meaning, JsonForm<Value>::type, JsonForm<Value>::schema()) {
    field_.value = [member](const void* record) -> std::optional<Json> {
      const auto& value = static_cast<const Record*>(record)->*member;
      return value ? std::optional(JsonForm<Value>::json(*value)) : std::nullopt;
    };
    field_.take = [member, text = field_.name](const Json& json, void* record) {
      if (!json.is_null()) static_cast<Record*>(record)->*member = JsonForm<Value>::value(json, text);
    };
  }

  /// A number that stands elsewhere in the record.
  FieldMaker(const char* name, std::optional<double> (*get)(const Record&), void (*set)(double, Record&),
             const char* meaning)
      : FieldBuilder(name, meaning, JsonForm<double>::type, JsonForm<double>::schema()) {
    field_.value = [get](const void* record) -> std::optional<Json> {
      const auto value = get(*static_cast<const Record*>(record));
      return value ? std::optional<Json>(*value) : std::nullopt;
    };
    field_.take = [set, text = field_.name](const Json& json, void* record) {
      if (!json.is_null()) set(JsonForm<double>::value(json, text), *static_cast<Record*>(record));
    };
  }
};

}  // namespace mileage
