// Plan files: TOML that holds a whole plan.
#pragma once

#include <filesystem>

#include "tool/measure_options.h"

namespace mileage {

/// Reads a plan file into the options that were not given. Its keys are named like the options; `knobs` is a table.
/// Lists may be written as TOML lists or as one text. Throws Error (bad input) that names line and key: for a file that
/// is no TOML, for a key that is not known (with the nearest that is), and for a value of the wrong type.
void read_plan_file(const std::filesystem::path& file, MeasureOptions& options);
/// The same for a text that was read already; `file` is for messages, and for folders that start from its own.
void read_plan_text(const std::string& text, const std::filesystem::path& file, MeasureOptions& options);

}  // namespace mileage
