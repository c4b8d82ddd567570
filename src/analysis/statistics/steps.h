// Steps: jumps in cost between two neighbouring places, where a buffer is made again, an index gets wider, another way
// is taken. No law and no reading goes across one.
#pragma once

#include <optional>
#include <vector>

#include "analysis/statistics/cell_means.h"
#include "analysis/statistics/laws.h"

namespace mileage {

/// Somewhere between two neighbouring places.
struct Step {
  double before = 0;
  double after = 0;
  double log_jump =
      0;  ///< By how much the cost jumps, log scale, beside what it grows over the gap; below 0 downwards.

  bool holds(double x) const { return x > before && x < after; }
};

/// The gaps over which the cost rises by more than 15 % and by more than noise beyond what either neighbouring gap
/// lets expect, log-log and in proportion (a knee inside the gap explains that much), or falls so. Not over gaps wider
/// than a factor of 2.5. Two places are needed on either side. Points that weigh less than a third of the best measured
/// one are skipped. `noise` is that of one run; nothing is found where it is not known. What is uncertain of the
/// points counts beside it.
std::vector<Step> find_steps(const Points& points, const Noise& noise);

/// The same gaps with the jumps that these points show; without those whose places are not among them.
std::vector<Step> steps_seen_by(const Points& points, const std::vector<Step>& gaps);

/// What the points would be without steps: those below are lifted to the slowdown beyond the last one.
Points without_steps(const Points& points, const std::vector<Step>& steps);

/// Those that no step lies between and x.
Points on_the_side_of(double x, const Points& points, const std::vector<Step>& steps);

/// The step that x lies in; nullptr where there is none.
const Step* step_at(double x, const std::vector<Step>& steps);

/// Whether a step lies between two places.
bool is_step_between(double from, double to, const std::vector<Step>& steps);

}  // namespace mileage
