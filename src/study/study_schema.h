// Documentation of the study file, from its field descriptions (fields.h).
#pragma once

#include <string>

#include "study/json_text.h"

namespace mileage {

/// JSON schema (draft 7) of a line.
Json study_schema();

/// Markdown list: name, type, unit, meaning, format version if not the first.
std::string run_fields_list();
std::string series_fields_list();
std::string head_fields_list();
std::string plan_fields_list();
std::string machine_fields_list();

}  // namespace mileage
