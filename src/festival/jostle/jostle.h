// The scenario jostle: lanterns on still water push each other apart.
#pragma once

#include "mileage/types/catalogue.h"

namespace mileage::festival {

void add_jostle(Catalogue& catalogue);

/// Of all ways that sort lanterns into cells.
Knob jostle_cell_knob();

}  // namespace mileage::festival
