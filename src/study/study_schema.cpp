#include "study/study_schema.h"

#include <fmt/format.h>

#include "study/json_forms.h"

namespace mileage {
namespace {

std::string since(const Field& field) {
  if (!field.was.empty()) return fmt::format(" `{}` before version 3.", field.was);
  return field.since == 1 ? "" : fmt::format(" Since version {}.", field.since);
}

std::string list_of(const FieldList& fields) {
  std::string list;
  for (const Field& field : fields)
    list += fmt::format("- `{}` ({}{}): {}{}\n", field.name, field.type, field.unit.empty() ? "" : ", " + field.unit,
                        field.meaning, since(field));
  return list;
}

Json run_schema() {
  Json schema = fields_schema(fields_of<Run>());
  schema["if"]["properties"]["status"]["enum"] = {"failed"};
  schema["then"]["required"] = {"failure"};
  Json& required = schema["else"]["required"];
  const Run usual;
  for (const Field& field : fields_of<Run>())
    if (field.is_required_of && field.is_required_of(&usual)) required.push_back(field.name);
  return schema;
}

Json head_schema() {
  Json schema = fields_schema(fields_of<Head>());
  schema["required"].insert(schema["required"].begin(), "format");
  schema["properties"]["format"]["enum"] = {"mileage-study"};
  return schema;
}

}  // namespace

Json study_schema() {
  Json schema;
  schema["$schema"] = "http://json-schema.org/draft-07/schema#";
  schema["title"] = "One line of a Mileage study file (*.study.jsonl), format version 3";
  schema["description"] =
      "The first line is a head, every further line a run. Fields that are not listed may be present and are "
      "ignored.";
  for (const char* kind : {"head", "run"}) schema["oneOf"].push_back({{"$ref", fmt::format("#/definitions/{}", kind)}});
  schema["definitions"]["head"] = head_schema();
  schema["definitions"]["run"] = run_schema();
  return schema;
}

std::string run_fields_list() { return list_of(fields_of<Run>()); }
std::string series_fields_list() { return list_of(fields_of<Series>()); }
std::string head_fields_list() { return list_of(fields_of<Head>()); }
std::string plan_fields_list() { return list_of(fields_of<Plan>()); }
std::string machine_fields_list() { return list_of(fields_of<Machine>()); }

}  // namespace mileage
