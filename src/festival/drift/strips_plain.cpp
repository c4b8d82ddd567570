// Without vectors.
#include "festival/drift/strip_loop.h"

namespace mileage::festival {

CarryStrip plain_carry_strip(int kind) { return as_compiled(kind, std::make_integer_sequence<int, max_kinds>{}); }

}  // namespace mileage::festival
