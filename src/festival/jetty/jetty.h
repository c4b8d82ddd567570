// The scenario jetty: lanterns bump against jetties that are laid of planks.
#pragma once

#include "mileage/types/catalogue.h"

namespace mileage::festival {

void add_jetty(Catalogue& catalogue);

}  // namespace mileage::festival
