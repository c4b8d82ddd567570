// What is asked of a study.
#pragma once

#include <string>
#include <vector>

namespace mileage {

struct EvidenceSet;

struct Questions {
  std::vector<double> budgets_ms;    ///< Each > 0; empty means the budget of the plan.
  double reserve_ms = 0;             ///< Of the rest of the frame; subtracted the budgets already.
  std::vector<double> at;            ///< Places to state costs at; empty means a few within the measured range.
  std::string baseline;              ///< Variant that all others are compared with; empty means the first.
  std::vector<std::string> between;  ///< Variants whose pairs are asked for; empty means each with the next one.
  double memory_bytes = 0;           ///< That a world may take; 0 where no limit was asked for.
  double tick_ms = 0;                ///< Of a fixed tick with catch-up; 0 where none was asked for.
  double spike_ms = 100;             ///< Of the spike that such ticks are to make good.
  double min_saving_share = 0.02;    ///< Share of the first budget that a difference must save to pay off.

  /// The budgets asked for, or that of the plan, in what costs are counted in: where that is energy, what a frame of
  /// that length uses at the study's usual power.
  std::vector<double> budgets_of(const EvidenceSet& evidence) const;
  /// What a difference must save to pay off.
  double min_saving_ms(const EvidenceSet& evidence) const;
};

/// Throws Error (usage) when one of the names is that of no series; `field` is what was asked for.
void check_variants(const EvidenceSet& evidence, const std::vector<std::string>& names, const char* field);

}  // namespace mileage
