// The loops over columns of lanterns, in three grades of vectors. Each is compiled for every kind of lantern.
#pragma once

#include <cstdint>

#include "festival/drift/drift_kernel.h"

namespace mileage::festival {

/// How wide the vectors of a loop over columns are.
enum class Vectors {
  none,   ///< One lantern at a time: what layout alone gives.
  usual,  ///< Those that the festival's flags allow on every processor of the target.
  widest  ///< The widest that the processor at hand has, found out at run time.
};

/// Where a strip of lanterns begins in each column. Columns must not overlap.
struct StripStart {
  float *x_m, *y_m, *height_m, *vx, *vy, *vz, *age_s, *flicker, *lean;
  const std::uint32_t* key;
};

/// Takes `count` lanterns of one kind through one inner step.
using CarryStrip = void (*)(std::int64_t count, const Moment& now, const StripStart& start);

/// The loop for a kind, 0 <= kind < max_kinds.
CarryStrip carry_strip(Vectors vectors, int kind);
CarryStrip plain_carry_strip(int kind);
CarryStrip usual_carry_strip(int kind);
CarryStrip widest_carry_strip(int kind);

/// Bits of the widest vectors that the processor at hand has and the loops know: 512, 256, or 0 for the usual ones.
int widest_vector_bits();

}  // namespace mileage::festival
