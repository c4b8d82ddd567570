// Variants of night-show: lanterns drift and are drawn.
#pragma once

#include <memory>

#include "mileage/types/variant.h"

namespace mileage::device {

/// Updated on the processor, places sent every frame.
std::unique_ptr<Variant> make_show_columns(const SetUp& set_up);
/// Everything on the device.
std::unique_ptr<Variant> make_show_compute(const SetUp& set_up);
/// Updated on the device, placed on the processor: cost of a round trip.
std::unique_ptr<Variant> make_show_round_trip(const SetUp& set_up);

}  // namespace mileage::device
