#pragma once

#include <cstdint>
#include <vector>

namespace mileage {

/// RGB rows from the top. May be empty.
struct Picture {
  int width = 0;
  int height = 0;
  std::vector<std::uint8_t> pixels;  ///< 3 * width * height.

  bool empty() const { return pixels.empty(); }
};

}  // namespace mileage
