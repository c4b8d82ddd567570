// Compute variants of drift.
#pragma once

#include <memory>

#include "mileage/types/variant.h"

namespace mileage::device {

/// Lanterns stay on the device. Knob in-flight.
std::unique_ptr<Variant> make_drift_compute(const SetUp& set_up);
/// Read back every frame.
std::unique_ptr<Variant> make_drift_compute_readback(const SetUp& set_up);
/// Uploaded and read back every frame.
std::unique_ptr<Variant> make_drift_compute_upload(const SetUp& set_up);

}  // namespace mileage::device
