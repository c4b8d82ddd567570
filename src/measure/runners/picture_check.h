// Pictures that programs leave, compared with that of the reference.
#pragma once

#include <filesystem>

#include "mileage/types/picture.h"

namespace mileage {

/// Reads a PNG file, any kind of it, as red, green and blue; what is transparent is over black. Throws Error (bad
/// input) for anything else, and for more than 64 MiB or 64 million pixels.
Picture read_png(const std::filesystem::path& file);

/// How two pictures of the same size differ.
struct PictureDifference {
  double pixels = 0;  ///< Share of pixels of which any channel differs by more than 2 % of its range.
  double mean = 0;    ///< Mean difference of all channels, as a share of their range.
};

/// Both have the same size, and are not empty.
PictureDifference difference_of(const Picture& one, const Picture& other);

}  // namespace mileage
