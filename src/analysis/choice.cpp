#include "analysis/choice.h"

#include <algorithm>
#include <cmath>

#include "analysis/crossings.h"
#include "analysis/difference.h"

namespace mileage {
namespace {

constexpr int places_judged = 240;

double cost_ms(const SeriesCurve& series, double x) { return std::exp(series.all.log_ms_at(x)); }

std::vector<std::size_t> measured_at(const std::vector<const SeriesCurve*>& series, double x) {
  std::vector<std::size_t> there;
  for (std::size_t i = 0; i < series.size(); ++i)
    if (series[i]->all.covers(x)) there.push_back(i);
  return there;
}

bool does_as_well(const SeriesCurve& one, const SeriesCurve& cheapest, double x, double worth_ms) {
  if (cost_ms(one, x) - cost_ms(cheapest, x) <= worth_ms) return true;
  const Difference difference = Pair(one, cheapest).at(x);
  return std::isfinite(difference.error) && !difference.is_clear();
}

/// How often the stated worth may be lost by staying while every change that is simple gains less.
constexpr double patience = 2;

/// The simplest of those that do as well as the cheapest and save enough against what is in use; the cheapest does.
std::size_t worth_changing_to(const std::vector<const SeriesCurve*>& series, const std::vector<std::size_t>& as_well,
                              std::size_t cheapest, std::size_t in_use, double x, double worth_ms) {
  const auto found = std::find_if(as_well.begin(), as_well.end(), [&](std::size_t i) {
    return cost_ms(*series[in_use], x) - cost_ms(*series[i], x) > worth_ms;
  });
  return found == as_well.end() ? cheapest : *found;
}

/// What to use at x when `below` says what has been in use just below (nullptr at the start).
Stretch answer_at(const std::vector<const SeriesCurve*>& series, const Stretch* below, double x, double budget_ms,
                  double worth_ms) {
  const std::vector<std::size_t> there = measured_at(series, x);
  const std::size_t cheapest = *std::min_element(there.begin(), there.end(), [&](std::size_t a, std::size_t b) {
    return cost_ms(*series[a], x) < cost_ms(*series[b], x);
  });
  std::vector<std::size_t> as_well;
  for (const std::size_t i : there)
    if (i == cheapest || does_as_well(*series[i], *series[cheapest], x, worth_ms)) as_well.push_back(i);
  const bool all = as_well.size() == series.size();
  const auto stretch = [&](std::size_t use, bool matters) { return Stretch{x, x, use, matters, cost_ms(*series[use], x) <= budget_ms}; };

  if (below == nullptr || !series[below->use]->all.covers(x)) return stretch(as_well.front(), !all);
  const std::size_t in_use = below->use;
  if (std::find(as_well.begin(), as_well.end(), in_use) != as_well.end()) return stretch(in_use, !all);
  const std::size_t better = worth_changing_to(series, as_well, cheapest, in_use, x, worth_ms);
  const bool simpler_may_follow = better == cheapest && as_well.front() != cheapest;
  const double loses_ms = cost_ms(*series[in_use], x) - cost_ms(*series[cheapest], x);
  if (simpler_may_follow && loses_ms <= patience * worth_ms) return stretch(in_use, below->matters);
  return stretch(better, true);
}

bool same_answer(const Stretch& a, const Stretch& b) {
  return a.use == b.use && a.matters == b.matters && a.fits == b.fits;
}

}  // namespace

std::vector<Stretch> choose(const std::vector<const SeriesCurve*>& series, double budget_ms, double worth_ms) {
  double least = series.front()->all.least();
  double most = series.front()->all.most();
  for (const SeriesCurve* one : series) {
    least = std::min(least, one->all.least());
    most = std::max(most, one->all.most());
  }
  std::vector<Stretch> stretches;
  for (const double x : places_between(least, most, places_judged)) {
    if (measured_at(series, x).empty()) continue;
    const Stretch here = answer_at(series, stretches.empty() ? nullptr : &stretches.back(), x, budget_ms, worth_ms);
    if (stretches.empty()) {
      stretches.push_back(here);
      continue;
    }
    if (!same_answer(stretches.back(), here)) {
      const double border = std::sqrt(stretches.back().to * x);
      stretches.back().to = border;
      stretches.push_back(here);
      stretches.back().from = border;
    }
    stretches.back().to = x;
  }
  return stretches;
}

}  // namespace mileage
