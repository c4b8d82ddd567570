#pragma once

#include <filesystem>

#include <png.h>

#include "mileage/types/picture.h"

namespace mileage::testing_support {

/// Grey, 100 x 50; the first `odd` pixels are brighter by `by`.
inline Picture grey_picture(int odd = 0, int by = 100) {
  Picture picture{100, 50, std::vector<std::uint8_t>(100 * 50 * 3, 80)};
  for (int byte = 0; byte < 3 * odd; ++byte)
    picture.pixels[static_cast<std::size_t>(byte)] = static_cast<std::uint8_t>(80 + by);
  return picture;
}

inline void write_png(const std::filesystem::path& file, const Picture& picture) {
  png_image image{};
  image.version = PNG_IMAGE_VERSION;
  image.width = static_cast<png_uint_32>(picture.width);
  image.height = static_cast<png_uint_32>(picture.height);
  image.format = PNG_FORMAT_RGB;
  png_image_write_to_file(&image, file.c_str(), 0, picture.pixels.data(), 0, nullptr);
}

}  // namespace mileage::testing_support
