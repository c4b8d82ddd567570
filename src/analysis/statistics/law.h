// Growth laws as they are written down: kind and coefficients. laws.h evaluates and fits them.
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
  one_knee,              ///< linear, with another slope above a place
  two_knees              ///< linear, with other slopes above two places
};
inline constexpr LawKind all_laws[] = {
    LawKind::constant, LawKind::linear,   LawKind::n_log_n,  LawKind::quadratic, LawKind::linear_and_quadratic,
    LawKind::power,    LawKind::one_knee, LawKind::two_knees};

/// A law with its coefficients, none of them below zero and not all zero. Costs are in milliseconds.
struct Law {
  LawKind kind = LawKind::constant;
  double fixed_ms = 0;
  std::vector<double>
      coefficients;           ///< In the order of the formula; of a law with knees: the slopes, from below upwards.
  double exponent = 0;        ///< Of a power; 0 otherwise.
  std::vector<double> knees;  ///< Places where the slope changes, ascending.
};

}  // namespace mileage
