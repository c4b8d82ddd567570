#include "study/fields.h"

#include <cmath>

#include <fmt/format.h>

namespace mileage {
namespace {

Json whole_if_possible(double number) {
  return number == std::floor(number) ? Json(static_cast<std::int64_t>(number)) : Json(number);
}

std::optional<double> number_in(const std::optional<Json>& value) {
  return value && value->is_number() ? std::optional(value->get<double>()) : std::nullopt;
}

}  // namespace

Json fields_json(const FieldList& fields, const void* record) {
  Json json = Json::object();
  for (const Field& field : fields)
    if (auto value = field.value(record)) json[field.name] = std::move(*value);
  return json;
}

void take_fields(const FieldList& fields, const Json& json, void* record) {
  for (const Field& field : fields) {
    const Json* found = field_if_there(json, field.name.c_str());
    if (found == nullptr && !field.was.empty()) found = field_if_there(json, field.was.c_str());
    if (found != nullptr)
      field.take(*found, record);
    else if (field.is_required)
      field_of(json, field.name.c_str());  // Throws.
  }
  for (const Field& field : fields)
    if (field.is_required_of && field.is_required_of(record)) field_of(json, field.name.c_str());
}

std::optional<Fault> first_fault(const FieldList& fields, const void* record) {
  for (const Field& field : fields)
    if (auto fault = field.fault(record)) return fault;
  return std::nullopt;
}

Json fields_schema(const FieldList& fields) {
  Json json;
  json["type"] = "object";
  Json required = Json::array();
  for (const Field& field : fields)
    if (field.is_required) required.push_back(field.name);
  if (!required.empty()) json["required"] = required;
  for (const Field& field : fields) {
    Json& property = json["properties"][field.name];
    property["description"] = field.unit.empty() ? field.meaning : field.meaning + " Unit: " + field.unit + ".";
    property.update(field.schema);
  }
  return json;
}

FieldBuilder::FieldBuilder(const char* name, const char* meaning, const char* type, Json schema) {
  field_.name = name;
  field_.meaning = meaning;
  field_.type = type;
  field_.schema = std::move(schema);
}

FieldBuilder& FieldBuilder::required() {
  field_.is_required = true;
  return *this;
}

FieldBuilder& FieldBuilder::in(const char* unit) {
  field_.unit = unit;
  return *this;
}

FieldBuilder& FieldBuilder::since(int version) {
  field_.since = version;
  return *this;
}

FieldBuilder& FieldBuilder::was(const char* earlier_name) {
  field_.was = earlier_name;
  return *this;
}

FieldBuilder& FieldBuilder::from(double min, double max) {
  field_.schema["minimum"] = whole_if_possible(min);
  return within(min, max);
}

FieldBuilder& FieldBuilder::above_zero() {
  field_.schema["exclusiveMinimum"] = 0;
  field_.fault = [value = field_.value, name = field_.name](const void* record) -> std::optional<Fault> {
    const auto number = number_in(value(record));
    if (!number || *number > 0) return std::nullopt;
    return Fault{
        .field = name, .problem = "out of range", .found = fmt::format("{}", *number), .accepted = "a number above 0"};
  };
  return *this;
}

FieldBuilder& FieldBuilder::finite() {
  return within(-std::numeric_limits<double>::infinity(), std::numeric_limits<double>::infinity());
}

FieldBuilder& FieldBuilder::not_empty() { return schema("minLength", 1); }

FieldBuilder& FieldBuilder::schema(const char* keyword, Json value) {
  field_.schema[keyword] = std::move(value);
  return *this;
}

FieldBuilder& FieldBuilder::zero_is_unknown() {
  field_.take = [inner = field_.take](const Json& json, void* record) {
    if (!json.is_number() || json.get<double>() != 0) inner(json, record);
  };
  return *this;
}

FieldBuilder& FieldBuilder::sparse() {
  field_.value = [inner = field_.value, default_value = default_](const void* record) {
    std::optional<Json> value = inner(record);
    return value == default_value ? std::nullopt : value;
  };
  return *this;
}

FieldBuilder& FieldBuilder::when_untyped(std::function<bool(const void*)> applies) {
  field_.value = [inner = field_.value, applies](const void* record) {
    return applies(record) ? inner(record) : std::nullopt;
  };
  field_.fault = [inner = field_.fault, applies](const void* record) {
    return applies(record) ? inner(record) : std::nullopt;
  };
  return *this;
}

FieldBuilder& FieldBuilder::within(double min, double max) {
  const bool is_whole = field_.type == JsonForm<int>::type;
  field_.fault = [value = field_.value, name = field_.name, min, max,
                  is_whole](const void* record) -> std::optional<Fault> {
    const auto number = number_in(value(record));
    if (!number || (std::isfinite(*number) && *number >= min && *number <= max)) return std::nullopt;
    return Fault{.field = name,
                 .problem = std::isfinite(*number) ? "out of range" : "not a number",
                 .found = fmt::format("{}", *number),
                 .accepted = is_whole             ? fmt::format("a whole number from {:.0f} to {:.0f}", min, max)
                             : std::isfinite(min) ? fmt::format("{} or above", min)
                                                  : "a number"};
  };
  return *this;
}

}  // namespace mileage
