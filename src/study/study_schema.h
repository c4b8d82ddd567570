// Documentation of the study file, from its field descriptions (fields.h).
#pragma once

#include <string>

#include "study/json_text.h"

namespace mileage {

/// JSON schema (draft 7) of a line.
Json study_schema();

/// Markdown table: name, type, unit, meaning, format version.
std::string run_fields_table();
std::string series_fields_table();
std::string head_fields_table();
std::string plan_fields_table();
std::string machine_fields_table();

}  // namespace mileage
