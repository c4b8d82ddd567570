// The scenario drift: lanterns on a river that know nothing of each other.
#pragma once

#include "mileage/types/catalogue.h"

namespace mileage::festival {

void add_drift(Catalogue& catalogue);

}  // namespace mileage::festival
