#include "analysis/answers/parts.h"

#include "analysis/analysis.h"

namespace mileage {

namespace {

/// Corrected like the frame, so that parts add up to it.
void correct(const SeriesCurve& curve, CellDetail& cell) {
  const auto cost = curve.cost_at(cell.x);
  if (!cost || cell.frame_ms <= 0) return;
  const double factor = cost->ms / cell.frame_ms;
  cell.frame_ms = cost->ms;
  for (auto* part : {&cell.thread_busy_ms, &cell.processor_ms})
    if (*part) **part *= factor;
  for (auto& [name, ms] : cell.phases_ms) ms *= factor;
}

}  // namespace

PartsAnswer parts_answer(const Analysis& analysis) {
  const EvidenceSet& evidence = analysis.evidence;
  PartsAnswer answer;
  for (std::size_t i = 0; i < evidence.series.size(); ++i) {
    const SeriesEvidence& one = evidence.series[i];
    SeriesParts parts{details_of(one), {}};
    if (evidence.cost_of == CostOf::frame)
      for (CellDetail& cell : parts.cells) correct(analysis.curves[i], cell);
    const VariantFacts* facts = evidence.head.scenario.find(one.series.variant);
    for (const CellDetail& cell : parts.cells)
      parts.devices.push_back(facts == nullptr ? std::nullopt : device_share(cell, *facts));
    answer.series.push_back(std::move(parts));
  }
  return answer;
}

}  // namespace mileage
