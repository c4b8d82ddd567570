#include "types/order_statistics.h"

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <utility>

#include <boost/math/statistics/univariate_statistics.hpp>

namespace mileage {

double median(std::vector<double> values) { return boost::math::statistics::median(values); }

double robust_sd(std::vector<double> values) {
  if (values.size() < 2) return 0;
  const double centre = median(values);
  for (double& value : values) value = std::fabs(value - centre);
  return 1.4826 * median(std::move(values));
}

double percentile_99(std::vector<float> values) {
  const double last = static_cast<double>(values.size() - 1);
  const double at = std::min(last, 0.99 * static_cast<double>(values.size() + 1) - 1);
  const auto end = values.begin() + static_cast<std::ptrdiff_t>(std::ceil(at));
  std::nth_element(values.begin(), end, values.end());
  return *end;
}

}  // namespace mileage
