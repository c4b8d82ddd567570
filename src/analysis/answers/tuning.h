// Tuning: the best value of a knob at a count, equally good ones, and what the default loses.
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

struct TunedValue {
  std::size_t series = 0;
  std::vector<KnobValue> values;  ///< By knob.
  CostReading cost;
  double share = 1;          ///< Ratio to the best.
  Interval share_interval;   ///< Shared among all values.
  bool may_be_best = false;  ///< No other value is significantly faster.
  /// May be best, or not significantly more than Questions::min_saving_share slower.
  bool is_as_good = false;
  bool is_default = false;
};

/// Of a numeric knob, both included.
struct ValueStretch {
  KnobValue from, to;
};

struct TunedAt {
  double x = 0;
  std::vector<TunedValue> values;  ///< By value.
  std::size_t best = 0;            ///< Index of the lowest upper end of the interval.
  /// Neighbours of the best: each may be best; each is as good.
  std::optional<ValueStretch> best_between;
  std::optional<ValueStretch> plateau;
  std::optional<std::size_t> default_value;  ///< Index, if measured.
};

struct Workers {
  std::size_t series = 0;
  double x = 0;
  double asked = 0;
  double worked = 0;  ///< That noted a batch, or by CPU time without notes.
  bool by_notes = false;
  bool is_honoured = true;
};

struct TuningAnswer {
  std::vector<std::string> knobs;
  double min_saving_share = 0.02;
  std::vector<TunedAt> places;
  std::vector<Scaling> scaling;  ///< By place with three numbers of workers.
  std::vector<Workers> workers;

  bool empty() const { return places.empty(); }
};

/// Empty `knobs`: those that differ within a variant. At the places asked for, else all with three values. Throws Error
/// (usage) for a knob with one value.
TuningAnswer tuning_answer(const Analysis& analysis, const std::vector<std::string>& knobs, const Questions& questions);

}  // namespace mileage
