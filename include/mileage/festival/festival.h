#pragma once

#include "mileage/types/catalogue.h"

namespace mileage {

/// Adds the bundled river-lantern scenarios with their processor variants.
void add_festival(Catalogue& catalogue);

}  // namespace mileage
