// Picture: what a drawn world looks like.
#pragma once

#include <cstdint>
#include <vector>

namespace mileage {

/// Pixels of three bytes (red, green, blue), row by row from above. Empty where there is none.
struct Picture {
  int width = 0;
  int height = 0;
  std::vector<std::uint8_t> pixels;  ///< 3 * width * height.

  bool empty() const { return pixels.empty(); }
};

}  // namespace mileage
