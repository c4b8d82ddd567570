// The compute variants of drift: its columns live on the device.
#pragma once

#include <memory>

#include "mileage/types/variant.h"

namespace mileage::device {

/// Lanterns stay on the device. Knob in-flight.
std::unique_ptr<Variant> make_drift_compute(const SetUp& set_up);
/// And are copied back every frame, for a game that needs them on the processor.
std::unique_ptr<Variant> make_drift_compute_readback(const SetUp& set_up);
/// And are sent there before every frame too: the processor's columns stay the truth.
std::unique_ptr<Variant> make_drift_compute_upload(const SetUp& set_up);

}  // namespace mileage::device
