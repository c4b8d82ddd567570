#pragma once

#include <filesystem>

#include "mileage/types/picture.h"

namespace mileage {

/// As RGB, transparent over black. Throws Error (bad input) if unreadable or above 64 MiB or 64 million pixels.
Picture read_png(const std::filesystem::path& file);

struct PictureDifference {
  double pixels = 0;  ///< Share with any channel off by over 2 %.
  double mean = 0;    ///< Over all channels, relative to their range.
};

/// Of equal size, not empty.
PictureDifference difference_of(const Picture& one, const Picture& other);

}  // namespace mileage
