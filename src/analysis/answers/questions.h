#pragma once

#include <string>
#include <vector>

namespace mileage {

struct EvidenceSet;

struct Questions {
  std::vector<double> budgets_ms;    ///< Each > 0; empty: the plan's.
  double reserve_ms = 0;             ///< Of the rest of the frame; already subtracted from the budgets.
  std::vector<double> at;            ///< Places; empty: a few within the measured range.
  std::string baseline;              ///< Variant; empty: the first.
  std::vector<std::string> between;  ///< Variants; empty: each with the next one.
  double memory_bytes = 0;           ///< Limit; 0 for none.
  double tick_ms = 0;                ///< Of a fixed tick with catch-up; 0 for none.
  double spike_ms = 100;             ///< To be recovered by such ticks.
  double min_saving_share = 0.02;    ///< Of the first budget: what pays off.

  /// In the unit of costs: for energy, what a frame of that length uses at the study's median power.
  std::vector<double> budgets_of(const EvidenceSet& evidence) const;
  double min_saving_ms(const EvidenceSet& evidence) const;
};

/// Throws Error (usage) for an unknown name; `field`: the option.
void check_variants(const EvidenceSet& evidence, const std::vector<std::string>& names, const char* field);

}  // namespace mileage
