// Where a frame that runs on a graphics device spends its time, and which of the two runs out first.
#pragma once

#include <optional>

#include "analysis/answers/cell_details.h"
#include "mileage/types/catalogue.h"

namespace mileage {

/// Milliseconds per frame at one place.
struct DeviceShare {
  double processor_ms = 0;  ///< Of the main thread, besides waiting for the device.
  double device_ms = 0;
  bool by_timer =
      false;  ///< Whether device_ms is of the device's timer; else it is the time that was waited for its fence.
  bool shares_cores = false;  ///< A software device: both are times of the same cores, and neither runs out by itself.

  bool device_runs_out_first() const { return device_ms > processor_ms; }
};

/// Nothing for a variant without a device, and for frames that did not mark wait_phase.
std::optional<DeviceShare> device_share(const CellDetail& detail, const VariantFacts& facts);

}  // namespace mileage
