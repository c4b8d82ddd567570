// Growth laws: kind and coefficients. curves/laws.h evaluates and fits them.
#pragma once

#include <vector>

namespace mileage {

/// In the order tried; each has a fixed cost besides.
enum class LawKind {
  constant,
  linear,                ///< a x
  n_log_n,               ///< a x log2(1 + x)
  quadratic,             ///< a x^2
  linear_and_quadratic,  ///< a x + b x^2
  power,                 ///< a x^exponent
  one_knee               ///< Linear with another slope from a place on.
};

/// Coefficients >= 0, not all zero; ms.
struct Law {
  LawKind kind = LawKind::constant;
  double fixed_ms = 0;
  std::vector<double> coefficients;  ///< In formula order; with a knee: slopes, upwards.
  double exponent = 0;               ///< Of a power.
  std::vector<double> knees;         ///< Of one_knee.
};

}  // namespace mileage
