// What frames consist of, cell by cell, and the processor's and device's shares.
#pragma once

#include <optional>
#include <vector>

#include "analysis/answers/cell_details.h"
#include "analysis/answers/device_share.h"

namespace mileage {

struct Analysis;

struct SeriesParts {
  std::vector<CellDetail> cells;
  std::vector<std::optional<DeviceShare>> devices;  ///< By cell; nothing without a device.
};

struct PartsAnswer {
  std::vector<SeriesParts> series;  ///< By series.
};

PartsAnswer parts_answer(const Analysis& analysis);

}  // namespace mileage
