// The bundled scenarios.
#pragma once

#include "mileage/types/catalogue.h"

namespace mileage::festival {

/// Lanterns on a river, independent of each other.
void add_drift(Catalogue& catalogue);
/// Lanterns that push each other apart.
void add_jostle(Catalogue& catalogue);
/// Lanterns that bounce off jetties.
void add_jetty(Catalogue& catalogue);
/// Wicks that burn down and are replaced.
void add_wicks(Catalogue& catalogue);
/// Moths that search for lanterns.
void add_moths(Catalogue& catalogue);

Knob jostle_cell_knob();

}  // namespace mileage::festival
