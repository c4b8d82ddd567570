// Break-evens: places on the axis where the faster of two series changes.
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

/// From here on the other of the two is faster.
struct BreakEven {
  double at = 0;
  Side faster_below = Side::one;
  Interval interval;  ///< 95 %; an end is open where the range of both ends before.
  Interval even;  ///< Around it: the stretch where the difference is inside its own interval, or too small to pay off.
  Source source = Source::measured;
  double ms = 0;  ///< What a frame of the one takes there.
};

/// What two series have to say to each other.
struct PairAnswer {
  std::vector<BreakEven> break_evens;  ///< Ascending.
  std::string reason;                  ///< Without a break-even: what is the case instead.
  std::optional<Side> faster;          ///< Without a break-even: the one that is faster wherever it is known,
  bool throughout = false;             ///< whether that is the whole range,
  Interval clear;                      ///< from where to where it is,
  double share_at_lower = 1;           ///< and which share of the other's time it takes at the lower end of that
  double share_at_upper = 1;           ///< and at its upper end.
};

/// All break-evens of a pair within its common range. One exists only where the difference is sure on both of its
/// sides; a crossing of two curves inside their noise is none. A difference below `min_saving_ms` is too small to pay
/// off.
PairAnswer break_evens(const Pair& pair, double min_saving_ms = 0);

/// A knob among whose number the count is shared out, where both series of a pair have the same.
struct Divider {
  std::string knob;  ///< Such as "kinds".
  double number = 1;
};

/// Two series compared with each other.
struct ComparedPair {
  std::size_t one = 0;  ///< Places among the series of the study.
  std::size_t other = 0;
  PairAnswer answer;
  std::optional<Divider> divider;     ///< Nothing unless the axis is the count.
  std::optional<PaysOffFrom> worth;   ///< From where on one of them saves enough against the other, up to the end,
  Side paying_side = Side::other;     ///< and which. Nothing where neither does:
  std::optional<double> known_up_to;  ///< up to which place neither does. Nothing where they share no range.
};

struct BreakEvenAnswer {
  double min_saving_ms = 0;         ///< What a change has to save a frame.
  std::vector<ComparedPair> pairs;  ///< Those of compared_pairs().
};

/// Throws Error (usage) when a variant that is asked for is not in the study.
BreakEvenAnswer break_even_answer(const Analysis& analysis, const Questions& questions);

}  // namespace mileage
