// Which series of a study are answered for, and what they are compared with.
#pragma once

#include <map>
#include <string>
#include <vector>

#include "study/study.h"

namespace mileage {

struct Selection {
  std::vector<std::string> variants;                      ///< Names as is_called() reads them; empty means all.
  std::map<std::string, std::vector<std::string>> knobs;  ///< Values by knob, as people write them.
  std::string baseline;                                   ///< Listed first; empty keeps the order of the study.

  bool is_of_all() const { return variants.empty() && knobs.empty(); }
  /// A knob that a series does not have excludes it from nothing.
  bool holds(const Series& series) const;
};

/// The selected series, baseline first. Throws Error (usage) for a name or value that none of them has.
std::vector<Series> select_series(const std::vector<Series>& all, const Selection& selection);

}  // namespace mileage
