// Pictures of worlds without a renderer: flat shapes from above.
#pragma once

#include <array>
#include <cstdint>

#include "mileage/types/picture.h"

namespace mileage::festival {

using Colour = std::array<std::uint8_t, 3>;

namespace colours {
inline constexpr Colour water{18, 32, 54};
inline constexpr Colour glow{244, 170, 60};
inline constexpr Colour ember{134, 92, 52};
inline constexpr Colour wood{112, 84, 62};
inline constexpr Colour wing{208, 214, 224};
}  // namespace colours

/// y grows upwards.
class Plot {
 public:
  static constexpr int width = 640;
  static constexpr int height = 640;

  /// From the origin to this corner.
  Plot(float to_x, float to_y);

  /// At least one pixel.
  void disc(float x, float y, float radius, const Colour& colour);
  void box(float x0, float y0, float x1, float y1, const Colour& colour);
  Picture picture() && { return std::move(picture_); }

 private:
  void dot(int column, int row, const Colour& colour);

  float pixels_each_;
  Picture picture_;
};

}  // namespace mileage::festival
