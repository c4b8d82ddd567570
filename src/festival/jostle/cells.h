#pragma once

#include <algorithm>
#include <cstdint>

#include "festival/jostle/jostle_world.h"

namespace mileage::festival::jostle {

/// Cells at least as wide as a lantern: overlapping lanterns are in the same or neighbouring cells.
class Cells {
 public:
  /// `edge` in lantern diameters, >= 1.
  Cells(const Basin& basin, double edge)
      : across_(std::max<std::int64_t>(1, static_cast<std::int64_t>(basin.side_m / (edge * diameter_m)))),
        cells_each_m_(static_cast<float>(across_) / basin.side_m) {}

  std::int64_t across() const { return across_; }
  std::int64_t size() const { return across_ * across_; }
  std::int64_t column(float x) const { return std::min(across_ - 1, static_cast<std::int64_t>(x * cells_each_m_)); }
  std::int64_t cell(float x, float y) const { return column(y) * across_ + column(x); }

 private:
  std::int64_t across_;
  float cells_each_m_;
};

}  // namespace mileage::festival::jostle
