// What frames are made of: cell by cell where their time goes, and which of processor and device runs out first.
#pragma once

#include <optional>
#include <vector>

#include "analysis/answers/cell_details.h"
#include "analysis/answers/device_share.h"

namespace mileage {

struct Analysis;

struct SeriesParts {
  std::vector<CellDetail> cells;
  std::vector<std::optional<DeviceShare>> devices;  ///< One per cell; nothing where no device is at work.
};

struct PartsAnswer {
  std::vector<SeriesParts> series;  ///< One per series of the study.
};

PartsAnswer parts_answer(const Analysis& analysis);

}  // namespace mileage
