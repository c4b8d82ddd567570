#include "analysis/answers/against.h"

#include <algorithm>
#include <cmath>

#include "analysis/analysis.h"
#include "analysis/answers/questions.h"
#include "analysis/curves/difference.h"
#include "analysis/evidence/labels.h"
#include "analysis/evidence/pairs.h"

namespace mileage {
namespace {

SeriesAgainst held_against(const Analysis& analysis, std::size_t a, std::size_t b) {
  const Curve& one = analysis.curves[a].all;
  const Pair pair(analysis.curves[a], analysis.curves[b]);
  SeriesAgainst held{a, b, {}};
  for (const double x : one.points.x) {
    if (!analysis.curves[b].all.covers(x)) continue;
    const Difference difference = pair.at(x);
    const double half = difference.error.half_width(pair.places());
    const Interval together = std::isfinite(half) ? interval_from_log(difference.log_ratio, half) : Interval{};
    held.places.push_back({x, difference.ratio(), together, pair.saves_ms(x)});
  }
  return held;
}

}  // namespace

std::vector<SeriesAgainst> against_answer(const Analysis& analysis, const std::string& variant) {
  std::vector<SeriesAgainst> all;
  if (variant.empty()) return all;
  const std::vector<SeriesEvidence>& series = analysis.evidence.series;
  check_variants(analysis.evidence, {variant}, "against");
  for (std::size_t b = 0; b < series.size(); ++b)
    for (std::size_t a = 0; a < series.size(); ++a) {
      const Series& one = series[a].series;
      const Series& other = series[b].series;
      if (is_called(other, variant) && !is_called(one, variant) && is_comparable(one, other) &&
          same_conditions(one, other, analysis.evidence.head.scenario))
        all.push_back(held_against(analysis, a, b));
    }
  return all;
}

const std::string& slowest_variant(const Analysis& analysis) {
  double reached = HUGE_VAL;
  for (const SeriesCurve& curve : analysis.curves) reached = std::min(reached, curve.all.most());
  std::size_t slowest = 0;
  double most_ms = 0;
  for (std::size_t i = 0; i < analysis.curves.size(); ++i) {
    const Curve& curve = analysis.curves[i].all;
    const double ms = std::exp(curve.log_ms_at(std::clamp(reached, curve.least(), curve.most())));
    if (ms <= most_ms) continue;
    most_ms = ms;
    slowest = i;
  }
  return analysis.evidence.series[slowest].series.variant;
}

}  // namespace mileage
