// 512 and 256 bits, selected at run time.
#include "festival/drift/strip_loop.h"
#include "festival/drift/widest.h"

namespace mileage::festival {
namespace {

#ifdef MILEAGE_HAS_WIDER
template <int kind>
MILEAGE_512_BITS void carry_512(std::int64_t count, const Moment& now, const StripStart& start) {
  carry_columns<kind>(count, now, start);
}

template <int kind>
MILEAGE_256_BITS void carry_256(std::int64_t count, const Moment& now, const StripStart& start) {
  carry_columns<kind>(count, now, start);
}

template <int... kinds>
CarryStrip among(int kind, std::integer_sequence<int, kinds...>) {
  static constexpr std::array<CarryStrip, sizeof...(kinds)> all_512{carry_512<kinds>...};
  static constexpr std::array<CarryStrip, sizeof...(kinds)> all_256{carry_256<kinds>...};
  const auto at = static_cast<std::size_t>(kind);
  return widest_vector_bits() == 512   ? all_512[at]
         : widest_vector_bits() == 256 ? all_256[at]
                                       : usual_carry_strip(kind);
}
#endif

}  // namespace

CarryStrip widest_carry_strip(int kind) {
#ifdef MILEAGE_HAS_WIDER
  return among(kind, std::make_integer_sequence<int, max_kinds>{});
#else
  return usual_carry_strip(kind);
#endif
}

int widest_vector_bits() {
#ifdef MILEAGE_HAS_WIDER
  static const int bits = __builtin_cpu_supports("avx512dq") && __builtin_cpu_supports("avx512vl") ? 512
                          : __builtin_cpu_supports("avx2")                                         ? 256
                                                                                                   : 0;
  return bits;
#else
  return 0;
#endif
}

CarryStrip carry_strip(Vectors vectors, int kind) {
  switch (vectors) {
    case Vectors::none:
      return plain_carry_strip(kind);
    case Vectors::usual:
      return usual_carry_strip(kind);
    case Vectors::widest:
      return widest_carry_strip(kind);
  }
  return usual_carry_strip(kind);
}

}  // namespace mileage::festival
