// What frames are made of, as tables and JSON.
#pragma once

#include <string>

#include "analysis/answers/about.h"
#include "analysis/answers/parts.h"
#include "study/study_json.h"
#include "views/text_table.h"

namespace mileage {

/// Where the time of a frame goes, per count: busy thread, all threads, cores used, phases; then counters and memory.
TextTable parts_table(const About& about, const SeriesParts& series);
/// Processor and device side by side for the series that run on a device, and which of them runs out first;
/// neighbouring places with the same answer in one row. Empty where none does.
TextTable device_table(const About& about, const PartsAnswer& answer);

/// The parts of every series.
std::string parts_text(const About& about, const PartsAnswer& answer);
/// Processor and device; empty where no series runs on a device.
std::string device_text(const About& about, const PartsAnswer& answer);

/// "parts" of each of the study's rows, which stand last in "curves".
void add_parts_json(Json& json, const PartsAnswer& answer, const Axis& axis);
/// "devices".
void add_devices_json(Json& json, const About& about, const PartsAnswer& answer);

}  // namespace mileage
