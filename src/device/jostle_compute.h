#pragma once

#include <memory>

#include "mileage/types/variant.h"

namespace mileage::device {

/// On the device: chained cells; each lantern tests all neighbours. Knob cell.
std::unique_ptr<Variant> make_jostle_compute(const SetUp& set_up);

}  // namespace mileage::device
