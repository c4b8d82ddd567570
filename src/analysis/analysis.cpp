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
  if (wanted.selection.is_of_all()) {
    analysis.curves = fit_curves(analysis.evidence, wanted.within_processes);
    return analysis;
  }
  EvidenceWanted whole = wanted;
  whole.selection = {};
  const EvidenceSet all = gather_evidence(study, whole);
  std::vector<SeriesCurve> curves = fit_curves(all, wanted.within_processes);
  for (const SeriesEvidence& one : analysis.evidence.series)
    for (std::size_t i = 0; i < all.series.size(); ++i)
      if (all.series[i].series == one.series) analysis.curves.push_back(std::move(curves[i]));
  return analysis;
}

}  // namespace mileage
