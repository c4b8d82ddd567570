#include "analysis/answers/against.h"

#include <algorithm>
#include <cmath>

#include "analysis/analysis.h"
#include "analysis/answers/questions.h"
#include "analysis/curves/pair.h"
#include "analysis/evidence/labels.h"
#include "analysis/evidence/pairs.h"

namespace mileage {
namespace {

SeriesAgainst compared_with(const Analysis& analysis, std::size_t a, std::size_t b, const std::vector<double>& at) {
  const SeriesCurve& one = analysis.curves[a];
  const Pair pair(analysis.curves[a], analysis.curves[b]);
  SeriesAgainst held{a, b, {}};
  for (const double x : at.empty() ? one.places() : at) {
    if (!one.covers(x) || !analysis.curves[b].covers(x)) continue;
    const Difference difference = pair.at(x);
    held.places.push_back({x, difference.ratio(), difference.ratio_interval(pair.places()), pair.saves_ms(x)});
  }
  return held;
}

}  // namespace

std::vector<SeriesAgainst> against_answer(const Analysis& analysis, const Questions& questions) {
  std::vector<SeriesAgainst> all;
  const std::vector<SeriesEvidence>& series = analysis.evidence.series;
  if (series.empty()) return all;
  const std::string& baseline = questions.baseline.empty() ? series.front().series.variant : questions.baseline;
  for (std::size_t b = 0; b < series.size(); ++b)
    for (std::size_t a = 0; a < series.size(); ++a) {
      const Series& one = series[a].series;
      const Series& other = series[b].series;
      if (is_called(other, baseline) && !is_called(one, baseline) && is_comparable(one, other) &&
          same_conditions(one, other, analysis.evidence.head.scenario))
        all.push_back(compared_with(analysis, a, b, questions.at));
    }
  return all;
}

}  // namespace mileage
