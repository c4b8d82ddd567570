#include "analysis/answers/about.h"

#include "analysis/analysis.h"
#include "analysis/answers/warnings.h"

namespace mileage {
namespace {

std::optional<double> only_place_of(const std::vector<SeriesCurve>& curves) {
  if (curves.empty()) return std::nullopt;
  const double place = curves.front().min();
  for (const SeriesCurve& curve : curves)
    if (curve.min() != place || curve.max() != place) return std::nullopt;
  return place;
}

}  // namespace

About about(const Analysis& analysis) {
  const EvidenceSet& evidence = analysis.evidence;
  About about;
  about.study = evidence.study->name;
  about.head = evidence.head;
  about.axis = evidence.axis;
  if (evidence.cost_of == CostOf::energy) about.cost_unit = "mJ";
  about.blocks = evidence.blocks.size();
  about.processes = evidence.processes;
  about.runs = evidence.quiet.kept;
  about.only_place = only_place_of(analysis.curves);
  for (std::size_t i = 0; i < evidence.series.size(); ++i) {
    const SeriesEvidence& one = evidence.series[i];
    about.series.push_back({one.series, one.label, one.rank, one.of_variant, one.fails_from, {}});
    about.series.back().corrected_by = analysis.curves[i].corrected_by();
  }
  about.failures = evidence.failures;
  about.bounds = evidence.bounds;
  about.agreements = evidence.agreements;
  about.quiet = evidence.quiet;
  about.spent = time_spent(*evidence.study);
  about.warnings = warnings_of(evidence);
  return about;
}

}  // namespace mileage
