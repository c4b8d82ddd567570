// Where a frame on a graphics device spends its time, and which of processor and device runs out first.
#pragma once

#include <optional>

#include "analysis/answers/cell_details.h"
#include "mileage/types/catalogue.h"

namespace mileage {

/// ms per frame.
struct DeviceShare {
  double processor_ms = 0;  ///< Of the main thread, without waiting for the device.
  double device_ms = 0;
  bool by_timer = false;      ///< Whether device_ms is from the device's timer; else from waiting for its fence.
  bool shares_cores = false;  ///< A software device: both use the same cores.

  bool device_runs_out_first() const { return device_ms > processor_ms; }
};

/// Nothing without a device or without wait_phase.
std::optional<DeviceShare> device_share(const CellDetail& detail, const VariantFacts& facts);

}  // namespace mileage
