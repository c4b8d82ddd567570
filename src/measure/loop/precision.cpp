#include "measure/loop/precision.h"

#include <algorithm>
#include <cmath>

namespace mileage {

int blocks_wanted(int made, std::optional<double> reached, double wanted) {
  if (!reached) return made + 2;
  const double ratio = std::log1p(*reached) / std::log1p(wanted);
  return ratio <= 1 ? made : std::max(made + 1, static_cast<int>(std::ceil(made * ratio * ratio)));
}

}  // namespace mileage
