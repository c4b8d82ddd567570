// Tuning: which value of a knob is best at a count, which are as good, and what the default loses.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "analysis/answers/scaling.h"
#include "analysis/curves/reading.h"
#include "mileage/types/knobs.h"

namespace mileage {

struct Analysis;
struct Questions;

/// One value (or one of each of two knobs) at one count.
struct TunedValue {
  std::size_t series = 0;         ///< Place among the series of the study.
  std::vector<KnobValue> values;  ///< One per knob.
  CostReading cost;
  double share = 1;          ///< Takes this many times what the best takes.
  Interval share_interval;   ///< 95 %, shared among all values compared with the best.
  bool may_be_best = false;  ///< Whether no other value is clearly faster.
  /// May be best, or is not known to cost more than the share asked for (Questions::min_saving_share) above it.
  bool is_as_good = false;
  bool is_default = false;
};

/// A stretch of values: of one numeric knob, neighbours in the order of the value.
struct ValueStretch {
  KnobValue from, to;
};

struct TunedAt {
  double x = 0;
  std::vector<TunedValue> values;  ///< In the order of the values.
  std::size_t best = 0;            ///< Index into the values: the one that surely costs least.
  /// Of one numeric knob: values around the best of which each may be it, and those that are as good.
  std::optional<ValueStretch> best_between;
  std::optional<ValueStretch> plateau;
  std::optional<std::size_t> default_value;  ///< Index into the values; nothing where it was not measured.
};

/// Whether as many workers worked as were asked for.
struct Workers {
  std::size_t series = 0;
  double x = 0;
  double asked = 0;
  double worked = 0;  ///< That noted a batch; by processor time where nobody notes work.
  bool by_notes = false;
  bool is_honoured = true;
};

struct TuningAnswer {
  std::vector<std::string> knobs;
  double min_saving_share = 0.02;
  std::vector<TunedAt> places;
  std::vector<Scaling> scaling;  ///< Of knob workers: one per place with three numbers of them or more.
  std::vector<Workers> workers;  ///< Of knob workers.

  bool empty() const { return places.empty(); }
};

/// Of the knobs named; where none is, of those that differ among the series of one variant. At the places asked for
/// that were measured, else at all that three values or more were measured at. Throws Error (usage) for a knob that
/// nothing was measured over.
TuningAnswer tuning_answer(const Analysis& analysis, const std::vector<std::string>& knobs, const Questions& questions);

}  // namespace mileage
