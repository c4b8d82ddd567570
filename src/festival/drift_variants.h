// The processor variants of drift.
#pragma once

#include <memory>

#include "mileage/types/variant.h"

namespace mileage::festival {

/// One heap object per lantern, one virtual call per lantern and frame. Knob scatter.
std::unique_ptr<Variant> make_drift_objects(const SetUp& set_up);
/// One contiguous array of structures, one loop.
std::unique_ptr<Variant> make_drift_records(const SetUp& set_up);
/// One array per field, one loop that the compiler vectorises.
std::unique_ptr<Variant> make_drift_columns(const SetUp& set_up);
/// The columns in batches over a task scheduler. Knobs workers and batch.
std::unique_ptr<Variant> make_drift_jobs(const SetUp& set_up);

}  // namespace mileage::festival
