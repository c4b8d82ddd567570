// Knobs as they stand in one cell of a table: "scatter=1 workers=2".
#pragma once

#include <string>

#include "mileage/types/knobs.h"

namespace mileage {

/// A value with a blank, "=" or "%" in it has those as "%20" and the like.
std::string knobs_cell(const Knobs& knobs);

/// The same of one knob whose value stands in a cell as it is.
std::string knob_cell(const std::string& name, const std::string& value);

/// Back from there. Throws Error (bad input).
Knobs knobs_from_cell(const std::string& cell);

}  // namespace mileage
