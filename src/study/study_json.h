// The JSON form of what stands in a study file and crosses to run processes. Fields that are not known are ignored,
// so that files of later writers can be read. A field that is missing or has the wrong type is an Error (bad input)
// that names it; the caller adds file and line.
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
/// Also checks the format's name and version.
Head head_from_json(const Json& json);
Run run_from_json(const Json& json);

/// As they stand in the file.
const char* name_of(RunStatus status);
const char* name_of(MadeBy made_by);

}  // namespace mileage
