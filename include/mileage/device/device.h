// The variants that run on a graphics device, and the scenarios that need one.
#pragma once

#include "mileage/types/catalogue.h"

namespace mileage {

/// Adds the compute variants of drift and the scenarios draw and night-show to a catalogue that holds the festival
/// (add_festival). Opens no device: whether there is one is asked when the catalogue is (Catalogue::scenarios_here).
void add_device(Catalogue& catalogue);

}  // namespace mileage
