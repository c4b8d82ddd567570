// Writing the page and the figure of a study. Both throw Error (cannot write).
#pragma once

#include <filesystem>

#include "analysis/answers/report.h"

namespace mileage {

void write_page(const std::filesystem::path& path, const Report& report);
/// The ending of the name, .png or .svg, says which format; Error (usage) for another one.
void write_figure(const std::filesystem::path& path, const Report& report);

}  // namespace mileage
