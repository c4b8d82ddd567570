// Loops over columns, for three vector widths and every kind.
#pragma once

#include <cstdint>

#include "festival/drift/drift_kernel.h"

namespace mileage::festival {

enum class Vectors {
  none,
  usual,  ///< Of the build flags.
  widest  ///< Of this processor, found at run time.
};

/// Start of a strip in each column. Columns must not overlap.
struct StripStart {
  float *x_m, *y_m, *height_m, *vx, *vy, *vz, *age_s, *flicker, *lean;
  const std::uint32_t* key;
};

/// One inner step of `count` lanterns of one kind.
using CarryStrip = void (*)(std::int64_t count, const Moment& now, const StripStart& start);

/// 0 <= kind < max_kinds.
CarryStrip carry_strip(Vectors vectors, int kind);
CarryStrip plain_carry_strip(int kind);
CarryStrip usual_carry_strip(int kind);
CarryStrip widest_carry_strip(int kind);

/// 512, 256, or 0 for those of the build flags.
int widest_vector_bits();

}  // namespace mileage::festival
