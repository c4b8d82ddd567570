#include "festival/plot.h"

#include <algorithm>
#include <cmath>

namespace mileage::festival {

Plot::Plot(float to_x, float to_y) : pixels_each_(std::min(width / to_x, height / to_y)) {
  picture_.width = width;
  picture_.height = height;
  picture_.pixels.resize(std::size_t{3} * width * height);
  for (std::size_t i = 0; i < picture_.pixels.size(); ++i) picture_.pixels[i] = colours::water[i % 3];
}

void Plot::dot(int column, int row, const Colour& colour) {
  if (column < 0 || column >= width || row < 0 || row >= height) return;
  const std::size_t place = 3 * (static_cast<std::size_t>(height - 1 - row) * width + static_cast<std::size_t>(column));
  std::copy(colour.begin(), colour.end(), picture_.pixels.begin() + static_cast<std::ptrdiff_t>(place));
}

void Plot::disc(float x, float y, float radius, const Colour& colour) {
  const float at_x = x * pixels_each_;
  const float at_y = y * pixels_each_;
  const float reach = std::max(0.5F, radius * pixels_each_);
  const auto pixel = [](float at) { return static_cast<int>(std::floor(at)); };
  dot(pixel(at_x), pixel(at_y), colour);
  for (int row = pixel(at_y - reach); row <= pixel(at_y + reach); ++row)
    for (int column = pixel(at_x - reach); column <= pixel(at_x + reach); ++column) {
      const float away_x = static_cast<float>(column) + 0.5F - at_x;
      const float away_y = static_cast<float>(row) + 0.5F - at_y;
      if (away_x * away_x + away_y * away_y <= reach * reach) dot(column, row, colour);
    }
}

void Plot::box(float x0, float y0, float x1, float y1, const Colour& colour) {
  const auto pixel = [&](float at) { return static_cast<int>(std::floor(at * pixels_each_)); };
  for (int row = pixel(y0); row <= std::max(pixel(y0), pixel(y1) - 1); ++row)
    for (int column = pixel(x0); column <= std::max(pixel(x0), pixel(x1) - 1); ++column) dot(column, row, colour);
}

}  // namespace mileage::festival
