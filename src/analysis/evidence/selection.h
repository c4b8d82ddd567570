// Which series to answer for, and the baseline.
#pragma once

#include <map>
#include <string>
#include <vector>

#include "study/study.h"

namespace mileage {

struct Selection {
  std::vector<std::string> variants;                      ///< As for is_called(); empty means all.
  std::map<std::string, std::vector<std::string>> knobs;  ///< By knob, as typed.
  std::string baseline;                                   ///< Listed first; empty keeps study order.

  bool is_of_all() const { return variants.empty() && knobs.empty(); }
  /// Series without a knob are not excluded by it.
  bool holds(const Series& series) const;
};

/// Baseline first. Throws Error (usage) for a name or value that no series has.
std::vector<Series> select_series(const std::vector<Series>& all, const Selection& selection);

}  // namespace mileage
