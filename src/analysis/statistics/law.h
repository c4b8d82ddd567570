// Growth laws as they are written down: kind and coefficients. curves/laws.h evaluates and fits them.
#pragma once

#include <vector>

namespace mileage {

/// In the order in which they are tried. Every law has a fixed cost besides.
enum class LawKind {
  constant,              ///< nothing else
  linear,                ///< a x
  n_log_n,               ///< a x log2(1 + x)
  quadratic,             ///< a x^2
  linear_and_quadratic,  ///< a x + b x^2
  power,                 ///< a x^exponent
  one_knee               ///< linear, with another slope above a place
};

/// A law with its coefficients, none of them below zero and not all zero. Costs are in milliseconds.
struct Law {
  LawKind kind = LawKind::constant;
  double fixed_ms = 0;
  std::vector<double>
      coefficients;           ///< In the order of the formula; of a law with a knee: the slopes, from below upwards.
  double exponent = 0;        ///< Of a power; 0 otherwise.
  std::vector<double> knees;  ///< The place where the slope changes, of one_knee.
};

}  // namespace mileage
