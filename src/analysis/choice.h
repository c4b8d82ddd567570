// Choice: which of several series to use from where to where along the axis.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "analysis/curve.h"

namespace mileage {

/// One stretch of the axis.
struct Stretch {
  double from = 0;
  double to = 0;
  std::size_t use = 0;  ///< Index of the series to use.
  bool matters = true;  ///< False where every series does as well: no difference is clear and worth anything.
  bool fits = true;     ///< Whether the series in use is within the budget.
};

/// Goes upwards along the measured range, starting with the first series (the simplest), and stays with what is in use as
/// long as it does as well as the cheapest: its difference is inside its interval, or below `worth_ms`. Then it changes
/// to the earliest series that does as well as the cheapest and saves more than `worth_ms` against what is in use. While only
/// the cheapest saves that much and simpler ones do nearly as well, it waits for one of them, until twice `worth_ms` would be
/// lost. A series takes part only as far as it was measured. Neighbouring places with the same answer become one stretch.
/// `series` must not be empty; `worth_ms` >= 0.
std::vector<Stretch> choose(const std::vector<const SeriesCurve*>& series, double budget_ms, double worth_ms);

}  // namespace mileage
