// Field descriptions of records, used for JSON in and out, checks, the JSON schema and docs. A new field is a member of
// the struct and a line here.
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

/// One field. Type-erased, so that code for fields is compiled once; FieldMaker knows the type.
struct Field {
  std::string name;
  std::string meaning;
  std::string unit;  ///< Empty for text and pure numbers.
  std::string type;  ///< "text", "whole number", "list of numbers" ...
  Json schema;
  int since = 1;    ///< Format version.
  std::string was;  ///< Name before version 3, if different.
  bool is_required = false;
  /// Whether this record must have it; checked after all fields are read.
  std::function<bool(const void*)> is_required_of;

  /// Nothing if absent.
  std::function<std::optional<Json>(const void*)> value;
  /// Not called for a missing field.
  std::function<void(const Json&, void*)> take;
  /// Invalid values from any source.
  std::function<std::optional<Fault>(const void*)> fault = [](const void*) { return std::nullopt; };
};

using FieldList = std::vector<Field>;

/// Specialised per record.
template <class Record>
const FieldList& fields_of();

/// Type-erased.
Json fields_json(const FieldList& fields, const void* record);
void take_fields(const FieldList& fields, const Json& json, void* record);
std::optional<Fault> first_fault(const FieldList& fields, const void* record);
Json fields_schema(const FieldList& fields);

template <class Record>
Json fields_json(const Record& record) {
  return fields_json(fields_of<Record>(), &record);
}

/// Throws Error (bad input) naming a missing or mistyped field. Ignores unknown fields.
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

/// JSON form of a type.
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

/// Record with described fields.
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

/// By name.
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

class FieldBuilder {
 public:
  FieldBuilder& required();
  FieldBuilder& in(const char* unit);
  FieldBuilder& since(int version);
  /// Name before version 3; both are read.
  FieldBuilder& was(const char* earlier_name);
  /// Inclusive.
  FieldBuilder& from(double min, double max = std::numeric_limits<double>::infinity());
  FieldBuilder& above_zero();
  FieldBuilder& finite();
  FieldBuilder& not_empty();
  /// Additional schema keyword.
  FieldBuilder& schema(const char* keyword, Json value);
  /// Older writers wrote 0 for unknown.
  FieldBuilder& zero_is_unknown();
  /// Omitted at its default.
  FieldBuilder& sparse();

  /// Omitted unless all conditions hold.
  template <class Record>
  FieldBuilder& when(bool (*applies)(const Record&)) {
    return when_untyped([applies](const void* record) { return applies(*static_cast<const Record*>(record)); });
  }
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
  std::optional<Json> default_;  ///< Default.

 private:
  FieldBuilder& when_untyped(std::function<bool(const void*)> applies);
  FieldBuilder& within(double min, double max);
};

/// A member of the record.
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

  /// Omitted if unknown; null is unknown.
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

  /// A nested number.
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
