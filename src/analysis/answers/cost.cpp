#include "analysis/answers/cost.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <utility>

#include "analysis/analysis.h"
#include "analysis/answers/groups.h"
#include "analysis/answers/questions.h"
#include "analysis/curves/difference.h"
#include "analysis/statistics/constants.h"

namespace mileage {
namespace {

double away(double a, double b) { return std::max(a / b, b / a); }

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

Fit fit_of(const CostReading& cost, double budget_ms) {
  const double low = cost.interval.low.value_or(cost.ms);
  const double high = cost.interval.high.value_or(cost.ms);
  return high <= budget_ms ? Fit::fits : low > budget_ms ? Fit::over : Fit::cannot_tell;
}

/// How many frames earn back what a set-up takes more than the first one's.
void find_payback(std::vector<SeriesCost>& costs) {
  const auto first_setup_ms = costs.front().setup_ms;
  for (SeriesCost& one : costs)
    if (one.setup_ms && first_setup_ms && *one.setup_ms > *first_setup_ms && one.saves_ms > 0)
      one.payback_frames = std::ceil((*one.setup_ms - *first_setup_ms) / one.saves_ms);
}

PlaceCosts costs_at(double x, const std::vector<std::size_t>& members, const Analysis& analysis,
                    const PartsAnswer& parts, double budget_ms) {
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
    if (one.cost) {
      one.fit = fit_of(*one.cost, budget_ms);
      one.left_ms = budget_ms - one.cost->ms;
    }
    one.setup_ms = setup_at(x, parts.series[member].cells);
    place.costs.push_back(one);
  }
  find_payback(place.costs);
  return place;
}

/// The cell of a series at a place, or close by.
const CellDetail* cell_near(const SeriesParts& parts, double x) {
  const CellDetail* nearest = nullptr;
  for (const CellDetail& cell : parts.cells)
    if (away(cell.x, x) <= same_place_within && (nearest == nullptr || away(cell.x, x) < away(nearest->x, x)))
      nearest = &cell;
  return nearest;
}

/// Everything that one cell tells besides its frame time, by name and unit.
std::map<std::pair<std::string, std::string>, double> told_by(const CellDetail& cell, const Axis& axis) {
  std::map<std::pair<std::string, std::string>, double> told;
  const auto add = [&](const char* name, const std::string& unit, const std::optional<double>& value) {
    if (value) told[{name, unit}] = *value;
  };
  add("set-up", "ms", cell.setup_ms);
  add("cores used", "", cell.cores_used());
  add("memory", "bytes a " + axis.thing, cell.bytes_per_entity);
  for (const auto& [name, ms] : cell.phases_ms) told[{"phase " + name, "ms"}] = ms;
  for (const auto& [name, amount] : cell.counters) told[{"counter " + name, "a frame"}] = amount;
  return told;
}

bool differs(const std::vector<std::optional<double>>& values) {
  double least = HUGE_VAL;
  double most = -HUGE_VAL;
  for (const auto& value : values) {
    least = std::min(least, value.value_or(least));
    most = std::max(most, value.value_or(most));
  }
  const bool is_told_by_all =
      std::all_of(values.begin(), values.end(), [](const auto& one) { return one.has_value(); });
  return !is_told_by_all || most > least * trait_differs_from;
}

/// At the largest place that a member was measured at.
void find_traits(GroupCosts& group, const Analysis& analysis, const PartsAnswer& parts) {
  for (const PlaceCosts& place : group.places)
    for (const std::size_t member : group.members)
      if (cell_near(parts.series[member], place.x) != nullptr) group.traits_at = place.x;
  std::map<std::pair<std::string, std::string>, std::vector<std::optional<double>>> traits;
  for (std::size_t i = 0; i < group.members.size(); ++i) {
    const CellDetail* cell = cell_near(parts.series[group.members[i]], group.traits_at);
    if (cell == nullptr) continue;
    for (const auto& [what, value] : told_by(*cell, analysis.evidence.axis)) {
      auto& values = traits[what];
      values.resize(group.members.size());
      values[i] = value;
    }
  }
  for (auto& [what, values] : traits)
    if (differs(values)) group.traits.push_back({what.first, what.second, std::move(values)});
}

}  // namespace

bool SeriesCost::is_told_apart() const {
  return share_interval.closed() && (*share_interval.low > 1 || *share_interval.high < 1);
}

CostAnswer cost_answer(const Analysis& analysis, const PartsAnswer& parts, const Questions& questions) {
  const std::vector<double> places = places_shown(analysis, questions);
  CostAnswer answer;
  answer.budget_ms = questions.budgets_of(analysis.evidence).front();
  for (const Group& group : groups_among(analysis.evidence)) {
    GroupCosts costs{group.conditions, group.members, group.labels, {}};
    for (const double x : places) costs.places.push_back(costs_at(x, group.members, analysis, parts, answer.budget_ms));
    find_traits(costs, analysis, parts);
    answer.groups.push_back(std::move(costs));
  }
  return answer;
}

}  // namespace mileage
