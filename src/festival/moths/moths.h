// The scenario moths: a few moths look for lanterns among many.
#pragma once

#include "mileage/types/catalogue.h"

namespace mileage::festival {

void add_moths(Catalogue& catalogue);

}  // namespace mileage::festival
