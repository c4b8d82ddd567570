// The compute variant of jostle: lanterns live on the device, which finds pairs and moves them.
#pragma once

#include <memory>

#include "mileage/types/variant.h"

namespace mileage::device {

/// Cells of chains; every lantern looks at all its neighbours itself. Knob cell.
std::unique_ptr<Variant> make_jostle_compute(const SetUp& set_up);

}  // namespace mileage::device
