#include "analysis/answers/cost.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <utility>

#include "analysis/analysis.h"
#include "analysis/answers/groups.h"
#include "analysis/answers/questions.h"
#include "analysis/curves/pair.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/statistics.h"
#include "types/text.h"

namespace mileage {
namespace {

double away(double a, double b) { return std::max(a / b, b / a); }

/// Interpolated on log scales.
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
  return high <= budget_ms ? Fit::fits : low > budget_ms ? Fit::over : Fit::inconclusive;
}

/// Frames relative to their own run's typical frame, at the nearest measured place.
std::optional<FrameSpread> spread_of(const SeriesEvidence& evidence, double x, double cost_ms, double budget_ms) {
  std::vector<float> relative;
  double sum = 0;
  for (const JudgedRun* one : evidence.runs) {
    if (away(one->x, x) > same_place_within || one->run->frames_per_sample != 1) continue;
    const double typical_ns = typical_frame_ms(*one->run) * 1e6;
    for (std::size_t i = 0; i < one->run->samples_ns.size(); ++i) {
      relative.push_back(static_cast<float>(static_cast<double>(own_ns(*one->run, i)) / typical_ns));
      sum += relative.back();
    }
  }
  if (relative.empty()) return std::nullopt;
  const double mean = sum / static_cast<double>(relative.size());
  const double typical_ms = evidence.unevenness == Unevenness::even ? cost_ms : cost_ms / mean;
  const auto over = std::count_if(relative.begin(), relative.end(),
                                  [&](float ratio) { return static_cast<double>(ratio) * typical_ms > budget_ms; });
  FrameSpread spread{
      typical_ms, typical_ms * mean, {}, static_cast<double>(over) / static_cast<double>(relative.size())};
  if (relative.size() >= frames_for_tail) spread.p99_ms = typical_ms * percentile_99(std::move(relative));
  return spread;
}

/// If the typical frame fits and many do not, the mean decides.
void judge_spread(SeriesCost& one, double budget_ms) {
  if (one.fit != Fit::fits || !one.spread || one.spread->share_over <= many_frames_over) return;
  one.fit = one.spread->mean_ms > budget_ms ? Fit::over : Fit::inconclusive;
  one.left_ms = budget_ms - one.spread->mean_ms;
}

void find_payback(std::vector<SeriesCost>& costs) {
  const auto first_setup_ms = costs.front().setup_ms;
  for (SeriesCost& one : costs)
    if (one.setup_ms && first_setup_ms && *one.setup_ms > *first_setup_ms && one.is_significant && one.saves_ms > 0)
      one.payback_frames = std::ceil((*one.setup_ms - *first_setup_ms) / one.saves_ms);
}

PlaceCosts costs_at(double x, const std::vector<std::size_t>& members, const Analysis& analysis,
                    const PartsAnswer& parts, double budget_ms, std::size_t places) {
  const std::size_t verdicts = std::max<std::size_t>(1, places * (members.size() - 1));
  PlaceCosts place{x, {}};
  const SeriesCurve& first = analysis.curves[members.front()];
  const auto first_cost = first.cost_at(x);
  for (const std::size_t member : members) {
    const SeriesCurve& curve = analysis.curves[member];
    SeriesCost one{member, curve.cost_at(x)};
    if (member != members.front() && one.cost && first_cost) {
      const Difference difference = Pair(curve, first).at(x);
      one.share = difference.ratio();
      one.share_interval = difference.ratio_interval();
      one.is_significant = difference.verdict(verdicts) != 0;
      one.saves_ms = first_cost->ms - one.cost->ms;
    }
    if (one.cost) {
      one.fit = fit_of(*one.cost, budget_ms);
      one.left_ms = budget_ms - one.cost->ms;
      if (analysis.evidence.cost_of == CostOf::frame)
        one.spread = spread_of(analysis.evidence.series[member], x, one.cost->ms, budget_ms);
      judge_spread(one, budget_ms);
    }
    one.setup_ms = setup_at(x, parts.series[member].cells);
    place.costs.push_back(one);
  }
  find_payback(place.costs);
  return place;
}

const CellDetail* cell_near(const SeriesParts& parts, double x) {
  const CellDetail* nearest = nullptr;
  for (const CellDetail& cell : parts.cells)
    if (away(cell.x, x) <= same_place_within && (nearest == nullptr || away(cell.x, x) < away(nearest->x, x)))
      nearest = &cell;
  return nearest;
}

/// Everything else that a cell reports, by name and unit, scaled to x. Phases are shares of the cost.
std::map<std::pair<std::string, std::string>, double> told_by(const CellDetail& cell, double x, const Axis& axis,
                                                              const SeriesCurve& curve) {
  std::map<std::pair<std::string, std::string>, double> told;
  const double scaled = x / cell.x;
  const auto cost = curve.cost_at(x);
  const double of_cost = cost && cell.frame_ms > 0 ? cost->ms / cell.frame_ms : scaled;
  if (cell.setup_ms) told[{"set-up", "ms"}] = scaled * *cell.setup_ms;
  if (const auto cores = cell.cores_used()) told[{"cores used", ""}] = *cores;
  if (cell.bytes_per_entity) told[{"memory", "bytes/" + axis.thing}] = *cell.bytes_per_entity;
  for (const auto& [name, ms] : cell.phases_ms) told[{"phase " + name, "ms"}] = of_cost * ms;
  for (const auto& [name, amount] : cell.counters) told[{"counter " + name, "per frame"}] = scaled * amount;
  return told;
}

bool differs(const Trait& trait) {
  double min = HUGE_VAL;
  double max = -HUGE_VAL;
  for (std::size_t i = 0; i < trait.values.size(); ++i) {
    if (!trait.is_known[i]) continue;
    if (!trait.values[i]) return true;
    min = std::min(min, *trait.values[i]);
    max = std::max(max, *trait.values[i]);
  }
  return max > min * trait_differs_from;
}

std::vector<const CellDetail*> cells_near(const GroupCosts& group, const PartsAnswer& parts, double x) {
  std::vector<const CellDetail*> cells;
  for (const std::size_t member : group.members) cells.push_back(cell_near(parts.series[member], x));
  return cells;
}

/// Places to compare traits at, best last.
std::vector<double> places_of_traits(const GroupCosts& group, const PartsAnswer& parts) {
  std::vector<double> shown, measured;
  for (const PlaceCosts& place : group.places) {
    const std::vector<const CellDetail*> near = cells_near(group, parts, place.x);
    if (std::any_of(near.begin(), near.end(), [](const auto* cell) { return cell != nullptr; }))
      shown.push_back(place.x);
  }
  for (const std::size_t member : group.members)
    for (const CellDetail& cell : parts.series[member].cells) measured.push_back(cell.x);
  // Nearest last: of equals the last is used.
  const double told = group.known_place().x;
  std::sort(measured.begin(), measured.end(), [&](double a, double b) { return away(a, told) > away(b, told); });
  return shown.empty() ? measured : shown;
}

void find_traits(GroupCosts& group, const Analysis& analysis, const PartsAnswer& parts) {
  std::vector<const CellDetail*> cells;
  std::ptrdiff_t max = 0;
  for (const double x : places_of_traits(group, parts)) {
    std::vector<const CellDetail*> near = cells_near(group, parts, x);
    const auto measured = std::count_if(near.begin(), near.end(), [](const auto* cell) { return cell != nullptr; });
    if (measured < max || measured == 0) continue;
    max = measured;
    group.traits_at = x;
    cells = std::move(near);
  }
  std::map<std::pair<std::string, std::string>, Trait> traits;
  for (std::size_t i = 0; i < cells.size(); ++i) {
    if (cells[i] == nullptr) continue;
    for (const auto& [what, value] :
         told_by(*cells[i], group.traits_at, analysis.evidence.axis, analysis.curves[group.members[i]])) {
      Trait& trait = traits[what];
      trait.values.resize(cells.size());
      trait.values[i] = value;
    }
  }
  for (auto& [what, trait] : traits) {
    trait.name = what.first;
    trait.unit = what.second;
    const bool may_have_none = trait.name.starts_with("phase ") || trait.name.starts_with("counter ");
    for (std::size_t i = 0; i < cells.size(); ++i)
      trait.is_known.push_back(trait.values[i] || (may_have_none && cells[i] != nullptr));
    if (differs(trait)) group.traits.push_back(std::move(trait));
  }
}

/// From its checks; cold series use warm checks.
std::vector<std::optional<PictureError>> pictures_of(const std::vector<std::size_t>& members,
                                                     const EvidenceSet& evidence) {
  std::vector<std::optional<PictureError>> pictures;
  for (const std::size_t member : members) {
    const auto found = std::find_if(evidence.agreements.begin(), evidence.agreements.end(),
                                    [&](const Agreement& one) { return one.series == evidence.series[member].series; });
    pictures.push_back(found == evidence.agreements.end() ? std::nullopt : found->picture);
  }
  return pictures;
}

}  // namespace

const PlaceCosts& GroupCosts::known_place() const {
  const auto known = std::find_if(places.rbegin(), places.rend(),
                                  [](const PlaceCosts& place) { return place.costs.front().cost.has_value(); });
  return known == places.rend() ? places.back() : *known;
}

CostAnswer cost_answer(const Analysis& analysis, const PartsAnswer& parts, const Questions& questions) {
  const std::vector<double> places = places_shown(analysis, questions);
  CostAnswer answer;
  answer.budget_ms = questions.budgets_of(analysis.evidence).front();
  answer.reserve_ms = questions.reserve_ms;
  for (const Group& group : groups_among(analysis.evidence)) {
    GroupCosts costs{group.conditions, group.members, group.labels, {}};
    for (const double x : places)
      costs.places.push_back(costs_at(x, group.members, analysis, parts, answer.budget_ms, places.size()));
    find_traits(costs, analysis, parts);
    costs.pictures = pictures_of(costs.members, analysis.evidence);
    answer.groups.push_back(std::move(costs));
  }
  return answer;
}

}  // namespace mileage
