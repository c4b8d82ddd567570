// Loop bodies of strips.h, included by one source per vector width. Internal linkage keeps them apart.
#pragma once

#include <array>
#include <utility>

#include "festival/drift/strips.h"

/// Without this promise a loop over ten columns is not vectorised.
#if defined(__clang__)
#define MILEAGE_COLUMNS_APART _Pragma("clang loop vectorize(assume_safety)")
#elif defined(__GNUC__)
#define MILEAGE_COLUMNS_APART _Pragma("GCC ivdep")
#else
#define MILEAGE_COLUMNS_APART
#endif

namespace mileage::festival {
namespace {

template <int kind>
[[gnu::always_inline]] inline void carry_columns(std::int64_t count, const Moment now, const StripStart at) {
  MILEAGE_COLUMNS_APART
  for (std::int64_t i = 0; i < count; ++i) {  // this loop must be vectorised
    float x_m = at.x_m[i], y_m = at.y_m[i], height_m = at.height_m[i];
    float vx = at.vx[i], vy = at.vy[i], vz = at.vz[i];
    float age_s = at.age_s[i], flicker = at.flicker[i], lean = at.lean[i];
    carry<kind>(now, x_m, y_m, height_m, vx, vy, vz, age_s, flicker, lean, at.key[i]);
    at.x_m[i] = x_m, at.y_m[i] = y_m, at.height_m[i] = height_m;
    at.vx[i] = vx, at.vy[i] = vy, at.vz[i] = vz;
    at.age_s[i] = age_s, at.flicker[i] = flicker, at.lean[i] = lean;
  }
}

template <int kind>
void carry_as_compiled(std::int64_t count, const Moment& now, const StripStart& start) {
  carry_columns<kind>(count, now, start);
}

template <int... kinds>
CarryStrip as_compiled(int kind, std::integer_sequence<int, kinds...>) {
  static constexpr std::array<CarryStrip, sizeof...(kinds)> all{carry_as_compiled<kinds>...};
  return all[static_cast<std::size_t>(kind)];
}

}  // namespace
}  // namespace mileage::festival
