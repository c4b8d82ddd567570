// JSON forms for study files and run processes. Unknown fields are ignored, for newer files. Throws Error (bad input)
// for a missing or mistyped field; the caller adds file and line.
#pragma once

#include "study/json_text.h"
#include "study/study.h"

namespace mileage {

Json to_json(const Knobs& knobs);
Json to_json(const Series& series);
Json to_json(const Outcome& outcome);
Json to_json(const Scenario& scenario);
Json to_json(const Machine& machine);
Json to_json(const Head& head);
Json to_json(const Run& run);

Knobs knobs_from_json(const Json& json);
Series series_from_json(const Json& json);
Outcome outcome_from_json(const Json& json);
Scenario scenario_from_json(const Json& json);
/// Checks format and version.
Head head_from_json(const Json& json);
Run run_from_json(const Json& json);

/// As in the file.
const char* name_of(RunStatus status);
const char* name_of(MadeBy made_by);

}  // namespace mileage
