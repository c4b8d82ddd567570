// The scenario jostle: lanterns on still water push each other apart.
#pragma once

#include "mileage/types/catalogue.h"

namespace mileage::festival {

void add_jostle(Catalogue& catalogue);

}  // namespace mileage::festival
