#include "analysis/answers/parts.h"

#include "analysis/analysis.h"

namespace mileage {

PartsAnswer parts_answer(const Analysis& analysis) {
  const EvidenceSet& evidence = analysis.evidence;
  PartsAnswer answer;
  for (const SeriesEvidence& one : evidence.series) {
    SeriesParts parts{details_of(one), {}};
    const VariantFacts* facts = evidence.head.scenario.find(one.series.variant);
    for (const CellDetail& cell : parts.cells)
      parts.devices.push_back(facts == nullptr ? std::nullopt : device_share(cell, *facts));
    answer.series.push_back(std::move(parts));
  }
  return answer;
}

}  // namespace mileage
