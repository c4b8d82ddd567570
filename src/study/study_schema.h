// What documents say of the study file, made from the descriptions of its fields (fields.h).
#pragma once

#include <string>

#include "study/json_text.h"

namespace mileage {

/// The JSON schema (draft 7) of a line of a study file.
Json study_schema();

/// The fields of a record as a Markdown table: name, type with unit, meaning, and since which version of the format.
std::string run_fields_table();
std::string series_fields_table();
std::string head_fields_table();
std::string plan_fields_table();
std::string machine_fields_table();

}  // namespace mileage
