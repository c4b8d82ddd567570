// Break-evens: places where the faster of two series changes.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "analysis/answers/pays_off_from.h"
#include "analysis/curves/reading.h"

namespace mileage {

struct Analysis;
class Pair;
struct Questions;

enum class Side { one, other };

/// The other of the two is faster from here.
struct BreakEven {
  double at = 0;
  Side faster_below = Side::one;
  Interval interval;  ///< Open where the common range ends first.
  Interval even;      ///< Around it: difference inconclusive or too small to pay off.
  Source source = Source::measured;
  double ms = 0;  ///< Frame time of the one there.
};

struct PairAnswer {
  std::vector<BreakEven> break_evens;
  std::string reason;          ///< Why there is no break-even.
  std::optional<Side> faster;  ///< Without a break-even: the faster one, if known.
  bool throughout = false;     ///< Faster over the whole range.
  Interval clear;              ///< Range in which it is faster.
  double share_at_lower = 1;   ///< Ratio to the other's time at the lower end,
  double share_at_upper = 1;   ///< and at the upper end.
};

/// Needs significant differences on both sides; curves that cross within noise have none. A difference below
/// `min_saving_ms` is too small to pay off.
PairAnswer break_evens(const Pair& pair, double min_saving_ms = 0);

/// Knob that splits the count, if both series of a pair have the same value.
struct Divider {
  std::string knob;  ///< Such as "kinds".
  double number = 1;
};

struct ComparedPair {
  std::size_t one = 0;
  std::size_t other = 0;
  PairAnswer answer;
  std::optional<Divider> divider;     ///< If the axis is the count.
  std::optional<PaysOffFrom> worth;   ///< Where one of them starts to pay off, up to the end.
  Side paying_side = Side::other;     ///< Which one does.
  std::optional<double> known_up_to;  ///< Otherwise the range checked. Nothing without a common range.
};

struct BreakEvenAnswer {
  double min_saving_ms = 0;         ///< Per frame.
  std::vector<ComparedPair> pairs;  ///< From compared_pairs().
};

/// Throws Error (usage) for an unknown variant.
BreakEvenAnswer break_even_answer(const Analysis& analysis, const Questions& questions);

}  // namespace mileage
