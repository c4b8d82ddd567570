#include "analysis/answers/cost.h"

#include <cmath>

#include "analysis/analysis.h"
#include "analysis/answers/groups.h"
#include "analysis/answers/questions.h"
#include "analysis/curves/difference.h"

namespace mileage {
namespace {

/// Set-up time between the cells, on log scales.
std::optional<double> setup_at(double x, const std::vector<CellDetail>& cells) {
  for (std::size_t i = 0; i < cells.size(); ++i) {
    if (cells[i].x < x) continue;
    if (i == 0 || cells[i].x == x) return cells[i].x == x ? cells[i].setup_ms : std::nullopt;
    const auto& below_ms = cells[i - 1].setup_ms;
    const auto& above_ms = cells[i].setup_ms;
    if (!below_ms || !above_ms || *below_ms <= 0 || *above_ms <= 0) return std::nullopt;
    const double share = std::log(x / cells[i - 1].x) / std::log(cells[i].x / cells[i - 1].x);
    return *below_ms * std::pow(*above_ms / *below_ms, share);
  }
  return std::nullopt;
}

/// How many frames earn back what a set-up takes more than the first one's.
void find_payback(std::vector<SeriesCost>& costs) {
  const auto first_setup_ms = costs.front().setup_ms;
  for (SeriesCost& one : costs)
    if (one.setup_ms && first_setup_ms && *one.setup_ms > *first_setup_ms && one.saves_ms > 0)
      one.payback_frames = std::ceil((*one.setup_ms - *first_setup_ms) / one.saves_ms);
}

PlaceCosts costs_at(double x, const std::vector<std::size_t>& members, const Analysis& analysis,
                    const PartsAnswer& parts) {
  PlaceCosts place{x, {}};
  const SeriesCurve& first = analysis.curves[members.front()];
  const auto first_cost = first.cost_at(x);
  for (const std::size_t member : members) {
    const SeriesCurve& curve = analysis.curves[member];
    SeriesCost one{member, curve.cost_at(x)};
    if (member != members.front() && one.cost && first_cost) {
      const Pair pair(curve, first);
      const auto measured = pair.measured_at(x);
      const Difference difference = measured ? *measured : pair.at(x);
      one.share = difference.ratio();
      one.share_interval = difference.ratio_interval();
      one.saves_ms = first_cost->ms - one.cost->ms;
    }
    one.setup_ms = setup_at(x, parts.series[member].cells);
    place.costs.push_back(one);
  }
  find_payback(place.costs);
  return place;
}

}  // namespace

CostAnswer cost_answer(const Analysis& analysis, const PartsAnswer& parts, const Questions& questions) {
  std::vector<double> ends;
  for (const SeriesCurve& curve : analysis.curves) ends.push_back(curve.all.most());
  const std::vector<double> places = questions.at.empty() ? usual_places(ends) : questions.at;
  CostAnswer answer;
  for (const Group& group : groups_among(analysis.evidence)) {
    GroupCosts costs{group.conditions, group.members, {}};
    for (const double x : places) costs.places.push_back(costs_at(x, group.members, analysis, parts));
    answer.groups.push_back(std::move(costs));
  }
  return answer;
}

}  // namespace mileage
