#include "analysis/answers/choice_map.h"

#include <algorithm>
#include <cmath>
#include <set>
#include <tuple>

#include <fmt/ranges.h>

#include "analysis/analysis.h"
#include "analysis/statistics/constants.h"
#include "types/error.h"
#include "types/notation.h"

namespace mileage {
namespace {

/// Conditions other than the knob.
Conditions held_besides(const std::string& knob, Conditions conditions) {
  conditions.knobs.erase(knob);
  return conditions;
}

std::string row_text(const std::string& knob, const Conditions& conditions) {
  const std::string held = held_besides(knob, conditions).text();
  return held + (held.empty() ? "" : ", ") + knob + " " + text_of(conditions.knobs.at(knob));
}

/// Thinned to a few, evenly spaced by ratio.
std::vector<double> few_measured_places(const Analysis& analysis) {
  std::set<double> all;
  for (const SeriesCurve& curve : analysis.curves) all.insert(curve.places().begin(), curve.places().end());
  const std::vector<double> measured(all.begin(), all.end());
  if (measured.size() <= max_map_places) return measured;
  std::vector<double> few;
  const double ratio = measured.back() / measured.front();
  for (std::size_t i = 0; i < max_map_places; ++i) {
    const double wanted =
        measured.front() * std::pow(ratio, static_cast<double>(i) / static_cast<double>(max_map_places - 1));
    const double nearest = *std::min_element(measured.begin(), measured.end(), [&](double a, double b) {
      return std::fabs(std::log(a / wanted)) < std::fabs(std::log(b / wanted));
    });
    if (few.empty() || nearest > few.back()) few.push_back(nearest);
  }
  return few;
}

/// Two groups are on one map if they share all but the knob.
bool has_neighbour(const std::string& knob, const GroupChoice& group, const ChoiceAnswer& answer) {
  return std::any_of(answer.groups.begin(), answer.groups.end(), [&](const GroupChoice& other) {
    return other.shared.knobs.count(knob) > 0 && other.shared != group.shared &&
           held_besides(knob, other.shared) == held_besides(knob, group.shared);
  });
}

}  // namespace

std::vector<ChoiceMap> choice_maps(const Analysis& analysis, const ChoiceAnswer& answer) {
  std::set<std::string> knobs;
  for (const GroupChoice& group : answer.groups)
    for (const auto& [knob, value] : group.shared.knobs) knobs.insert(knob);
  std::vector<ChoiceMap> maps;
  for (const std::string& knob : knobs) {
    ChoiceMap map{knob, {}, few_measured_places(analysis)};
    for (std::size_t i = 0; i < answer.groups.size(); ++i)
      if (answer.groups[i].shared.knobs.count(knob) > 0 && has_neighbour(knob, answer.groups[i], answer))
        map.rows.push_back({i, row_text(knob, answer.groups[i].shared)});
    std::stable_sort(map.rows.begin(), map.rows.end(), [&](const ChoiceMap::Row& a, const ChoiceMap::Row& b) {
      const Conditions& in_a = answer.groups[a.group].shared;
      const Conditions& in_b = answer.groups[b.group].shared;
      return std::tuple(held_besides(knob, in_a).text(), in_a.knobs.at(knob)) <
             std::tuple(held_besides(knob, in_b).text(), in_b.knobs.at(knob));
    });
    if (map.rows.size() > 1) maps.push_back(std::move(map));
  }
  return maps;
}

const ChoiceMap& map_over(const std::vector<ChoiceMap>& maps, const std::string& knob) {
  const auto found =
      std::find_if(maps.begin(), maps.end(), [&](const ChoiceMap& map) { return knob.empty() || map.knob == knob; });
  if (found != maps.end()) return *found;
  std::vector<std::string> known;
  for (const ChoiceMap& map : maps) known.push_back(map.knob);
  throw Error({.kind = FaultKind::usage,
               .field = "map",
               .problem = knob.empty() ? "no knob of the scenario was measured at several values" : "no such map",
               .found = knob,
               .accepted = known.empty() ? "a study with a knob of the scenario at several values, such as --knob "
                                           "scatter=0,0.5,1"
                                         : fmt::format("{}", fmt::join(known, ", "))});
}

}  // namespace mileage
