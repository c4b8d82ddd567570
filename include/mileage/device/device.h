#pragma once

#include "mileage/types/catalogue.h"

namespace mileage {

/// Adds the compute variants of drift and the scenarios draw and night-show to a catalogue with the festival
/// (add_festival). Devices are only queried by Catalogue::scenarios_here.
void add_device(Catalogue& catalogue);

}  // namespace mileage
