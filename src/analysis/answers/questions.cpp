#include "analysis/answers/questions.h"

#include <algorithm>

#include "analysis/evidence/evidence_set.h"
#include "analysis/evidence/labels.h"
#include "types/error.h"

namespace mileage {

std::vector<double> Questions::budgets_of(const EvidenceSet& evidence) const {
  std::vector<double> budgets = budgets_ms.empty() ? std::vector<double>{evidence.head.plan.budget_ms} : budgets_ms;
  for (double& budget : budgets) budget *= evidence.power_w;
  return budgets;
}

double Questions::min_saving_ms(const EvidenceSet& evidence) const {
  return min_saving_share * budgets_of(evidence).front();
}

void check_variants(const EvidenceSet& evidence, const std::vector<std::string>& names, const char* field) {
  for (const std::string& name : names) {
    const bool is_known = std::any_of(evidence.series.begin(), evidence.series.end(),
                                      [&](const SeriesEvidence& series) { return is_called(series.series, name); });
    if (is_known) continue;
    std::string accepted = "variants of this study:";
    for (const SeriesEvidence& series : evidence.series) accepted += " " + series.series.variant;
    throw Error({.kind = FaultKind::usage,
                 .field = field,
                 .problem = "no such variant in the study",
                 .found = name,
                 .accepted = accepted});
  }
}

}  // namespace mileage
