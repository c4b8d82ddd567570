#include "festival/drift/sorting.h"

#include <cmath>

namespace mileage::festival {

/// Additional inner steps of a heavy lantern at the most uneven setting.
constexpr double max_steps_more = 31;

Sorting::Sorting(const Knobs& knobs)
    : kinds(static_cast<int>(knobs.whole("kinds"))),
      heavy_steps(1 + std::llround(max_steps_more * knobs.number("uneven"))) {}

std::vector<Sort> Sorting::sorts() const {
  std::vector<Sort> all;
  for (int kind = 0; kind < kinds; ++kind) {
    all.push_back({kind, false});
    if (heavy_steps > 1) all.push_back({kind, true});
  }
  return all;
}

}  // namespace mileage::festival
