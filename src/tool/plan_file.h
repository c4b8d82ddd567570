// Plan files in TOML.
#pragma once

#include <filesystem>

#include "tool/measure_options.h"

namespace mileage {

/// Fills options that were not given. Keys are named like options; `knobs` is a table; lists are TOML lists or text.
/// Throws Error (bad input) with line and key, and the nearest known key.
void read_plan_file(const std::filesystem::path& file, MeasureOptions& options);
/// `file`: for messages, and base of relative folders.
void read_plan_text(const std::string& text, const std::filesystem::path& file, MeasureOptions& options);

}  // namespace mileage
