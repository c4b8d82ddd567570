// The scenario wicks: lanterns burn down and are replaced.
#pragma once

#include "mileage/types/catalogue.h"

namespace mileage::festival {

void add_wicks(Catalogue& catalogue);

}  // namespace mileage::festival
