#include "analysis/analysis.h"

#include <algorithm>

#include "types/error.h"

namespace mileage {
namespace {

[[noreturn]] void refuse_without_evidence(const EvidenceSet& evidence) {
  std::string told;
  for (const JudgedRun& one : evidence.runs)
    if (told.empty()) told = one.run->failure;
  throw Error({.file = evidence.study->name,
               .problem = evidence.cost_of == CostOf::frame
                              ? "the study has no finished run to answer from" + (told.empty() ? "" : "; " + told)
                          : evidence.cost_of == CostOf::energy
                              ? "no run of the study has energy: the kernel of its machine has no counters for it"
                              : "no run of the study has processor time",
               .accepted = evidence.cost_of == CostOf::frame ? "a study with at least one kept run"
                                                             : "--by frame, or a study of a linked program"});
}

}  // namespace

Analysis analyse(const Study& study, const EvidenceWanted& wanted) {
  Analysis analysis{gather_evidence(study, wanted), {}};
  const bool has_bounds = wanted.bounds_suffice && !analysis.evidence.bounds.empty();
  if (analysis.evidence.series.empty() && !has_bounds) refuse_without_evidence(analysis.evidence);
  for (const SeriesEvidence& series : analysis.evidence.series) analysis.curves.push_back(fit_series(series));
  return analysis;
}

}  // namespace mileage
