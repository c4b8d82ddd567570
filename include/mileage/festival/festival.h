// The bundled scenarios: a river-lantern festival.
#pragma once

#include "mileage/types/catalogue.h"

namespace mileage {

/// Adds the scenarios of the festival with their processor variants to a catalogue.
void add_festival(Catalogue& catalogue);

}  // namespace mileage
