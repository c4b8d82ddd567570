// What a study is for, as the runs so far show it.
#pragma once

#include <optional>
#include <vector>

#include "measure/loop/slow_frames.h"
#include "measure/loop/study_state.h"

namespace mileage {

struct Figure {
  enum class Of {
    capacity,
    crossing,
    pays_off,
    cost,  ///< At a count of the plan.
    best   ///< Whether a value of a tuned knob is slower than the best one.
  };
  Of of = Of::capacity;
  Contrast contrast;  ///< Its variance is that of the figure's logarithm.
  FramesOf frames = FramesOf::typical;
  double weight = 1;
  double enough_sd = 0;  ///< Needs no more runs below this.

  double middle = 0;  ///< Of the counts around it.

  double place() const;
  FigureKey key() const {
    return {static_cast<int>(of), contrast.one, contrast.other, static_cast<int>(frames), contrast.weight < 0};
  }
  bool concerns(std::size_t series) const;
  /// Whether counts are added around it.
  bool is_place() const { return of != Of::cost && of != Of::best; }
};

/// Those of the goal that exist, or all without a goal; if there is none, the costs at the plan's counts. When tuning,
/// the values that may be best at a count.
std::vector<Figure> figures_of(const StudyState& state);

/// What an interval of this variance (of the logarithm) costs the reader: its width, times the figure's weight. A
/// figure known within a factor of two only is as good as unknown.
double loss_of(const Figure& figure, double variance);

}  // namespace mileage
