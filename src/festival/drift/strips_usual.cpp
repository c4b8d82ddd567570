// Compiled with the vectors that the festival's flags allow.
#include "festival/drift/strip_loop.h"

namespace mileage::festival {
namespace {

template <int kind>
void carry_usual(std::int64_t count, const Moment& now, const StripStart& start) {
  carry_columns<kind>(count, now, start);
}

template <int... kinds>
CarryStrip among(int kind, std::integer_sequence<int, kinds...>) {
  static constexpr std::array<CarryStrip, sizeof...(kinds)> all{carry_usual<kinds>...};
  return all[static_cast<std::size_t>(kind)];
}

}  // namespace

CarryStrip usual_carry_strip(int kind) { return among(kind, std::make_integer_sequence<int, most_kinds>{}); }

}  // namespace mileage::festival
