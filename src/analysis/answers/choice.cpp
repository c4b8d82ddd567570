#include "analysis/answers/choice.h"

#include <algorithm>
#include <cmath>

#include "analysis/analysis.h"
#include "analysis/answers/capacity.h"
#include "analysis/answers/groups.h"
#include "analysis/answers/questions.h"
#include "analysis/answers/pays_off_from.h"
#include "analysis/curves/pair.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/statistics.h"

namespace mileage {
namespace {

double cost_ms(const SeriesCurve& series, double x) { return series.ms_at(x); }

std::vector<std::size_t> measured_at(const std::vector<const SeriesCurve*>& series, double x) {
  std::vector<std::size_t> there;
  for (std::size_t i = 0; i < series.size(); ++i)
    if (series[i]->covers(x)) there.push_back(i);
  return there;
}

/// Corrected for all places tested.
bool surely_saves(const SeriesCurve& one, const SeriesCurve& other, double x, double min_saving_ms) {
  if (cost_ms(one, x) - cost_ms(other, x) <= min_saving_ms) return false;
  const Pair pair(one, other);
  return is_surely_positive(pair.drawn_saved_beyond(x, min_saving_ms), pair.places());
}

bool does_as_well(const SeriesCurve& one, const SeriesCurve& cheapest, double x, double min_saving_ms) {
  return !surely_saves(one, cheapest, x, min_saving_ms);
}

/// The simplest that is as good as the fastest and surely saves enough.
std::size_t pays_to_switch_to(const std::vector<const SeriesCurve*>& series, const std::vector<std::size_t>& as_well,
                              std::size_t cheapest, std::size_t in_use, double x, double min_saving_ms) {
  const auto found = std::find_if(as_well.begin(), as_well.end(), [&](std::size_t i) {
    return surely_saves(*series[in_use], *series[i], x, min_saving_ms);
  });
  return found == as_well.end() ? cheapest : *found;
}

/// `below`: in use just below x; nullptr at the start.
ChoiceRange answer_at(const std::vector<const SeriesCurve*>& series, const std::vector<Capacity>& capacities,
                      const ChoiceRange* below, double x, double min_saving_ms) {
  const std::vector<std::size_t> there = measured_at(series, x);
  const std::size_t cheapest = *std::min_element(there.begin(), there.end(), [&](std::size_t a, std::size_t b) {
    return cost_ms(*series[a], x) < cost_ms(*series[b], x);
  });
  std::vector<std::size_t> as_well;
  for (const std::size_t i : there)
    if (i == cheapest || does_as_well(*series[i], *series[cheapest], x, min_saving_ms)) as_well.push_back(i);
  const auto is_over = [&](std::size_t i) {
    const Capacity& of = capacities[i];
    return of.at ? x > *of.at : of.none == NoCapacity::over_at_once;
  };
  // Exceeding the budget is no reason to switch without a significant difference.
  const auto fits_only_cheapest = [&](std::size_t i) {
    return is_over(i) && !is_over(cheapest) && surely_saves(*series[i], *series[cheapest], x, 0);
  };
  const bool to_fit = std::erase_if(as_well, fits_only_cheapest) > 0;
  const bool all = as_well.size() == series.size();
  const bool begins = below == nullptr || !series[below->use]->covers(x);
  const bool alone = there.size() == 1 && series.size() > 1 && (begins || below->alone);
  std::optional<std::size_t> not_measured = below == nullptr ? std::nullopt : below->not_measured;
  if (below != nullptr && begins && below->fits) not_measured = below->use;
  const auto stretch = [&](std::size_t use, bool matters) {
    return ChoiceRange{x, x, use, matters, !is_over(use), alone, to_fit, not_measured, false, {}};
  };

  if (begins) return stretch(as_well.front(), !all);
  const std::size_t in_use = below->use;
  if (std::find(as_well.begin(), as_well.end(), in_use) != as_well.end()) return stretch(in_use, !all);
  const std::size_t better = pays_to_switch_to(series, as_well, cheapest, in_use, x, min_saving_ms);
  const bool must_change = fits_only_cheapest(in_use);
  const bool simpler_may_follow = better == cheapest && as_well.front() != cheapest && !must_change;
  const double loses_ms = cost_ms(*series[in_use], x) - cost_ms(*series[cheapest], x);
  if (simpler_may_follow && loses_ms <= choice_patience * min_saving_ms) return stretch(in_use, below->matters);
  return stretch(better, true);
}

bool same_answer(const ChoiceRange& a, const ChoiceRange& b) {
  return a.use == b.use && a.matters == b.matters && a.fits == b.fits && a.alone == b.alone && a.to_fit == b.to_fit &&
         a.not_measured == b.not_measured;
}

struct Border {
  double at = 0;
  Interval interval;
};

std::optional<Border> border_between(const ChoiceRange& before, const ChoiceRange& after,
                                     const std::vector<const SeriesCurve*>& series,
                                     const std::vector<Capacity>& capacities, double min_saving_ms) {
  if (after.past_budget) {
    const Capacity& passes = capacities[before.use];
    return passes.at ? std::optional(Border{*passes.at, passes.interval}) : std::nullopt;
  }
  const bool ends = after.not_measured != before.not_measured;  // Nothing beats what is in use.
  if (before.use == after.use || after.to_fit || ends) return std::nullopt;
  const auto worth = pays_off_from(Pair(*series[before.use], *series[after.use]), min_saving_ms);
  return worth ? std::optional(Border{worth->at, worth->interval}) : std::nullopt;
}

void place_borders(std::vector<ChoiceRange>& stretches, const std::vector<const SeriesCurve*>& series,
                   const std::vector<Capacity>& capacities, double min_saving_ms) {
  for (std::size_t i = 1; i < stretches.size(); ++i) {
    ChoiceRange& before = stretches[i - 1];
    ChoiceRange& after = stretches[i];
    if (before.to < after.from) continue;
    const auto border = border_between(before, after, series, capacities, min_saving_ms);
    if (!border) continue;
    if (border->at > before.from && border->at < after.to) before.to = after.from = border->at;
    const bool holds_border =
        after.from >= border->interval.low.value_or(0) && after.from <= border->interval.high.value_or(HUGE_VAL);
    if (holds_border) after.from_interval = border->interval;
  }
}

}  // namespace

std::vector<ChoiceRange> choose(const std::vector<const SeriesCurve*>& series, double budget_ms, double min_saving_ms) {
  double min = series.front()->min();
  double max = series.front()->max();
  for (const SeriesCurve* one : series) {
    min = std::min(min, one->min());
    max = std::max(max, one->max());
  }
  std::vector<Capacity> capacities;
  for (const SeriesCurve* one : series) capacities.push_back(capacity(*one, budget_ms));
  std::vector<ChoiceRange> stretches;
  bool follows_gap = false;
  for (const double x : places_between(min, max, choice_places)) {
    if (measured_at(series, x).empty()) {
      follows_gap = true;
      continue;
    }
    const ChoiceRange here =
        answer_at(series, capacities, stretches.empty() ? nullptr : &stretches.back(), x, min_saving_ms);
    if (stretches.empty() || follows_gap) {
      stretches.push_back(here);
      follows_gap = false;
      continue;
    }
    if (const ChoiceRange below = stretches.back(); !same_answer(below, here)) {
      const double border = std::sqrt(below.to * x);
      stretches.back().to = border;
      stretches.push_back(here);
      stretches.back().from = border;
      const Capacity& passed = capacities[below.use];
      stretches.back().past_budget = below.fits && passed.at && x > *passed.at;
    }
    stretches.back().to = x;
  }
  place_borders(stretches, series, capacities, min_saving_ms);
  return stretches;
}

const ChosenStretch* stretch_at(const GroupChoice& group, double x) {
  for (const ChosenStretch& stretch : group.stretches)
    if (x >= stretch.from && x <= stretch.to) return &stretch;
  return nullptr;
}

namespace {

ChosenStretch with_savings(const ChoiceRange& stretch, const SeriesCurve& first, const SeriesCurve& used) {
  ChosenStretch chosen{stretch, {}, {}};
  const auto saves_ms = [&](double x) { return first.ms_at(x) - used.ms_at(x); };
  const double to = std::min(stretch.to, first.max());
  if (to >= stretch.from) chosen.saving = {stretch.from, saves_ms(stretch.from), to, saves_ms(to)};
  for (const double x : {stretch.from, stretch.to})
    if (first.covers(x) && used.covers(x)) chosen.saves_ms_at.emplace_back(x, saves_ms(x));
  return chosen;
}

SingleVariant used_everywhere(std::size_t member, const GroupChoice& group, const Analysis& analysis) {
  const SeriesCurve& curve = analysis.curves[member];
  SingleVariant worst{member, 0, curve.min(), 1};
  for (const double x : places_between(curve.min(), curve.max(), loss_places)) {
    const ChosenStretch* choice = stretch_at(group, x);
    if (choice == nullptr) continue;
    const double own_ms = curve.ms_at(x);
    const double choice_ms = analysis.curves[choice->use].ms_at(x);
    if (own_ms - choice_ms > worst.loses_ms) worst = {member, own_ms - choice_ms, x, own_ms / choice_ms};
  }
  return worst;
}

std::optional<Advice> advice_at(double x, const GroupChoice& group, const Analysis& analysis) {
  const ChosenStretch* here = stretch_at(group, x);
  if (here == nullptr) return std::nullopt;
  Advice advice{x, here->use, here->matters, here->fits, {}, 0, {}, {}};
  const ChosenStretch* end = group.stretches.data() + group.stretches.size();
  const ChosenStretch* later =
      std::find_if(here, end, [&](const ChosenStretch& stretch) { return stretch.use != here->use; });
  const bool is_known = later != end && !later->alone && later->not_measured == here->not_measured;
  if (is_known) {  // Otherwise it was not measured here.
    advice.next = later->use;
    advice.next_from = later->from;
    advice.next_from_interval = later->from_interval;
  }
  for (const std::size_t member : group.members)
    if (const SeriesCurve& curve = analysis.curves[member]; curve.covers(x))
      advice.costs_ms.emplace_back(member, curve.ms_at(x));
  return advice;
}

GroupChoice choice_of(const Group& group, const Analysis& analysis, const ChoiceAnswer& asked,
                      const std::vector<double>& places) {
  GroupChoice choice{group.shared, group.conditions, group.members, group.labels, {}, {}, {}};
  std::vector<const SeriesCurve*> curves;
  for (const std::size_t member : choice.members) curves.push_back(&analysis.curves[member]);
  for (ChoiceRange& stretch : choose(curves, asked.budget_ms, asked.min_saving_ms)) {
    stretch.use = choice.members[stretch.use];
    if (stretch.not_measured) stretch.not_measured = choice.members[*stretch.not_measured];
    choice.stretches.push_back(with_savings(stretch, *curves.front(), analysis.curves[stretch.use]));
  }
  for (const std::size_t member : choice.members)
    choice.everywhere.push_back(used_everywhere(member, choice, analysis));
  for (const double x : places)
    if (const auto advice = advice_at(x, choice, analysis)) choice.advice.push_back(*advice);
  return choice;
}

/// Series that skip a phase do not do the work.
Group without_floors(const Group& group, const EvidenceSet& evidence) {
  Group whole{group.shared, group.conditions, {}, {}};
  for (std::size_t i = 0; i < group.members.size(); ++i) {
    if (evidence.series[group.members[i]].series.is_floor()) continue;
    whole.members.push_back(group.members[i]);
    whole.labels.push_back(group.labels[i]);
  }
  return whole;
}

}  // namespace

const std::string& GroupChoice::label(std::size_t series) const {
  const auto place = std::find(members.begin(), members.end(), series) - members.begin();
  return labels[static_cast<std::size_t>(place)];
}

ChoiceAnswer choice_answer(const Analysis& analysis, const Questions& questions) {
  std::vector<double> places = places_shown(analysis, questions);
  if (questions.at.empty() && places.size() > 1) places.clear();
  ChoiceAnswer answer{questions.budgets_of(analysis.evidence).front(), questions.min_saving_ms(analysis.evidence), {}};
  for (const Group& group : groups_among(analysis.evidence))
    if (const Group whole = without_floors(group, analysis.evidence); !whole.members.empty())
      answer.groups.push_back(choice_of(whole, analysis, answer, places));
  return answer;
}

}  // namespace mileage
