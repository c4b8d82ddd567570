#include "measure/loop/aiming.h"

#include <algorithm>
#include <cmath>

#include "analysis/evidence/pairs.h"
#include "types/order_statistics.h"

namespace mileage {
namespace {

const std::vector<double> five_factors{0.74, 0.86, 1.0, 1.16, 1.35};
const std::vector<double> three_factors{0.82, 1.0, 1.22};
/// For 99 %, mostly below: more slow moments are still to come.
const std::vector<double> three_factors_below{0.75, 0.91, 1.11};
const std::vector<double> two_factors{0.82, 1.22};
/// Above: otherwise the figure could be reported as not reached.
const std::vector<double> one_factor{1.15};
constexpr double middle_within = 1.2;
/// Ratio to the outermost count within which a figure is missed.
constexpr double inside_by = 1.05;
/// Capacities this close share counts.
constexpr double share_within = 1.25;
/// A step is not searched closer.
constexpr double jump_is_known_within = 1.02;
constexpr std::size_t max_in_jump = 4;
/// Log ratio; smaller ones may be noise.
constexpr double told_apart = 0.1;

bool is_single(const Aim& aim) { return aim.counts_around == 1; }

const std::vector<double>& factors_of(const Aim& aim) {
  if (aim.counts_around >= five_factors.size()) return five_factors;
  if (aim.counts_around >= three_factors.size())
    return aim.frames == FramesOf::max ? three_factors_below : three_factors;
  return is_single(aim) ? one_factor : two_factors;
}

double middle_of(const Aim& aim) { return is_single(aim) ? aim.at.value_or(aim.around) : aim.around; }

/// Zero crossing between two places.
double between(std::int64_t below, std::int64_t above, double value_below, double value_above) {
  const double share = value_below / (value_below - value_above);
  return static_cast<double>(below) * std::pow(static_cast<double>(above) / static_cast<double>(below), share);
}

std::optional<double> first_rise(const RoughCosts& costs, double budget_ms) {
  for (auto at = costs.begin(); at != costs.end() && std::next(at) != costs.end(); ++at) {
    const auto next = std::next(at);
    if (at->second <= budget_ms && next->second > budget_ms)
      return between(at->first, next->first, std::log(at->second / budget_ms), std::log(next->second / budget_ms));
  }
  return std::nullopt;
}

/// log(one / other) at shared counts.
std::vector<std::pair<std::int64_t, double>> log_ratios(const RoughCosts& one, const RoughCosts& other) {
  std::vector<std::pair<std::int64_t, double>> ratios;
  for (const auto& [count, ms] : one)
    if (const auto there = other.find(count); there != other.end())
      ratios.emplace_back(count, std::log(ms / there->second));
  return ratios;
}

std::optional<double> first_change(const RoughCosts& one, const RoughCosts& other) {
  const auto ratios = log_ratios(one, other);
  for (std::size_t i = 1; i < ratios.size(); ++i) {
    const double sign = ratios[i].second > 0 ? 1 : -1;
    if ((ratios[i - 1].second > 0) == (ratios[i].second > 0)) continue;
    const bool before = std::any_of(ratios.begin(), ratios.begin() + static_cast<std::ptrdiff_t>(i),
                                    [&](const auto& ratio) { return -sign * ratio.second > told_apart; });
    const bool after = std::any_of(ratios.begin() + static_cast<std::ptrdiff_t>(i), ratios.end(),
                                   [&](const auto& ratio) { return sign * ratio.second > told_apart; });
    if (before && after) return between(ratios[i - 1].first, ratios[i].first, ratios[i - 1].second, ratios[i].second);
  }
  return std::nullopt;
}

}  // namespace

std::vector<Aim> aims_of(const Scenario& scenario, const Plan& plan) {
  std::vector<Aim> aims;
  if (plan.goal.figure != "breakeven")
    for (std::size_t series = 0; series < plan.series.size(); ++series)
      aims.push_back({series, {}, plan.goal.budget_ms > 0 ? plan.goal.budget_ms : plan.budget_ms, {}});
  if (plan.goal.figure != "capacity")
    for (const auto& [one, other] : compared_pairs(plan.series, scenario, plan.goal.between))
      aims.push_back({one, other, 0, {}});
  return aims;
}

std::optional<double> rough_place(const Aim& aim, const std::vector<RoughCosts>& costs) {
  return aim.other ? first_change(costs[aim.series], costs[*aim.other]) : first_rise(costs[aim.series], aim.budget_ms);
}

std::vector<std::int64_t> aimed_counts(const Aim& aim) {
  std::vector<std::int64_t> counts;
  for (const double factor : factors_of(aim))
    counts.push_back(std::max<std::int64_t>(1, std::llround(middle_of(aim) * factor)));
  counts.insert(counts.end(), aim.in_jump.begin(), aim.in_jump.end());
  std::sort(counts.begin(), counts.end());
  counts.erase(std::unique(counts.begin(), counts.end()), counts.end());
  return counts;
}

bool aim_into_jump(Aim& aim, const AimPoints& points) {
  if (aim.in_jump.size() == max_in_jump) return false;
  const auto jump = aim.other ? step_through(1, points, 0) : step_through(aim.budget_ms, points);
  if (!jump || *jump->high < jump_is_known_within * *jump->low) return false;
  const std::int64_t middle = std::llround(std::sqrt(*jump->low * *jump->high));
  if (points.count(middle) > 0) return false;
  aim.in_jump.push_back(middle);
  return true;
}

void choose_places(std::vector<Aim>& aims) {
  std::vector<Aim*> capacities;
  for (Aim& aim : aims) {
    aim.around = aim.at.value_or(0);
    if (aim.at && !aim.other && aim.frames != FramesOf::max) capacities.push_back(&aim);
  }
  std::sort(capacities.begin(), capacities.end(), [](const Aim* a, const Aim* b) { return *a->at < *b->at; });
  for (auto first = capacities.begin(); first != capacities.end();) {
    const auto end =
        std::find_if(first, capacities.end(), [&](const Aim* aim) { return *aim->at > *(*first)->at * share_within; });
    const double middle = std::sqrt(*(*first)->at * *(*std::prev(end))->at);
    for (; first != end; ++first) (*first)->around = middle;
  }
}

bool is_well_aimed(const Aim& aim, double found, const std::vector<RoughCosts>& costs) {
  if (is_single(aim)) return !is_missed(aim, found);
  if (found < *aim.at * middle_within && found > *aim.at / middle_within) return true;
  if (!aim.other) return false;
  std::vector<double> there;
  for (const auto& [count, ratio] : log_ratios(costs[aim.series], costs[*aim.other]))
    if (!is_missed(aim, static_cast<double>(count))) there.push_back(ratio);
  return !there.empty() && std::fabs(median(there)) < told_apart;
}

bool is_missed(const Aim& aim, double found) {
  const std::vector<double>& factors = factors_of(aim);
  const double lowest = is_single(aim) ? 1 / middle_within : factors.front() * inside_by;
  const double middle = middle_of(aim);
  return found < middle * lowest || found > middle * factors.back() / inside_by;
}

}  // namespace mileage
