// Knobs in a table cell: "scatter=1 workers=2".
#pragma once

#include <string>

#include "mileage/types/knobs.h"

namespace mileage {

/// Blanks, "=" and "%" in values are percent-encoded.
std::string knobs_cell(const Knobs& knobs);

/// For a value as it appears in a cell.
std::string knob_cell(const std::string& name, const std::string& value);

/// Throws Error (bad input).
Knobs knobs_from_cell(const std::string& cell);

}  // namespace mileage
