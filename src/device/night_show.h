// The scenario night-show: lanterns drift, and are drawn where they are.
#pragma once

#include <memory>

#include "mileage/types/variant.h"

namespace mileage::device {

/// Carried as columns on the processor; their places are sent to the device every frame.
std::unique_ptr<Variant> make_show_columns(const SetUp& set_up);
/// Carried, placed and drawn on the device: nothing leaves it.
std::unique_ptr<Variant> make_show_compute(const SetUp& set_up);
/// Carried on the device, read back, placed on the processor and sent again: what leaving the device costs.
std::unique_ptr<Variant> make_show_round_trip(const SetUp& set_up);

}  // namespace mileage::device
